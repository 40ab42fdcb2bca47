import { ELEMENTS } from "../quantities";

const { sampleAt } = ELEMENTS;
/** Power that a module turns into heat at each row of a log: input power less cell power, W. Null where a column lacks. */
export function heatPower(c: {
  readonly inputVoltage?: Float64Array | undefined;
  readonly inputCurrent?: Float64Array | undefined;
  readonly cellVoltage?: Float64Array | undefined;
  readonly cellCurrent?: Float64Array | undefined;
}): Float64Array | null {
  const { inputVoltage: vi, inputCurrent: ii, cellVoltage: vc, cellCurrent: ic } = c;
  if (!vi || !ii || !vc || !ic) return null;
  const out = new Float64Array(vc.length);
  for (let k = 0; k < out.length; k++) out[k] = sampleAt(vi, k) * sampleAt(ii, k) - sampleAt(vc, k) * sampleAt(ic, k);
  return out;
}
