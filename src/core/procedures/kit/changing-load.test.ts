import { changingLoad } from "./changing-load";

const plain = (t: string): string => t.replace(/[\u00a0\u202f]/g, " ");
const log = (n: number, of: (k: number) => number) => ({
  time: Float64Array.from({ length: n }, (_, k) => 10 * k),
  amps: Float64Array.from({ length: n }, (_, k) => of(k)),
});
const said = ({ time, amps }: ReturnType<typeof log>, stretches = [{ first: 0, end: time.length }]): string[] =>
  changingLoad(time, amps, stretches).map((n) => plain(n.message));

test("a load that stays says nothing, nor does one that only drifts, nor a log of a few rows", () => {
  expect(said(log(100, () => 0.2))).toEqual([]);
  expect(said(log(100, (k) => 0.2 + k * 1e-4))).toEqual([]);
  expect(said(log(8, (k) => k))).toEqual([]);
});

test("one that changes is said as least, mean by time, and most", () => {
  // 180 mA for ten minutes, one step down, then 2 mA for the rest of the hour.
  const { time, amps } = log(361, (k) => (k < 60 ? 0.18 : 0.002));
  const mean = (59 * 0.18 + (0.18 + 0.002) / 2 + 300 * 0.002) / 360;
  expect(said({ time, amps })).toEqual([
    `The load changed over 1 h 00 min: 2.00 mA at least, ${(mean * 1000).toFixed(1)} mA in the mean, 180 mA at most.`,
  ]);
});

test("time between stretches counts for nothing, and rows without a reading are bridged", () => {
  const { time, amps } = log(40, (k) => (k < 10 ? 0.1 : k < 20 ? 5 : 0.3));
  amps[3] = NaN;
  expect(
    said({ time, amps }, [
      { first: 0, end: 10 },
      { first: 20, end: 40 },
    ]),
  ).toEqual(["The load changed over 4 min 40 s: 100 mA at least, 236 mA in the mean, 300 mA at most."]);
});
