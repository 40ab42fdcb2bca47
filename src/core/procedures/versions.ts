/**
 * What is said of each procedure apart from its code: whoever only asks whether kept findings are still good, or what
 * kind of readings a run has, loads no procedure. Raise a version when what its analysis gives for the same readings
 * changes.
 */
export const PROCEDURE_FACTS = {
  "load-sweep": { title: "Load sweep", version: 4, readings: "points" },
  "charge-cycle": { title: "Charge cycle", version: 5, readings: "trace", charges: true },
  "threshold-ramp": { title: "Threshold ramp", version: 2, readings: "trace" },
  standby: { title: "Standby", version: 3, readings: "trace" },
  "light-load": { title: "Light load", version: 2, readings: "trace" },
  overload: { title: "Overload and short", version: 2, readings: "trace" },
  "heat-soak": { title: "Heat soak", version: 5, readings: "trace" },
  "power-path": { title: "Power path", version: 2, readings: "trace" },
  "solar-input": { title: "Solar input", version: 1, readings: "trace" },
  "meter-check": { title: "Meter check", version: 1, readings: "trace" },
  discharge: { title: "Discharge", version: 3, readings: "trace" },
  "rest-check": { title: "Rest check", version: 2, readings: "points" },
  "pack-charge": { title: "Pack charge", version: 5, readings: "trace", charges: true },
  "charge-channels": { title: "Charger channels", version: 3, readings: "points", charges: true },
  ripple: { title: "Output ripple", version: 1, readings: "trace", oscilloscope: true },
  behaviour: { title: "Behaviour checklist", version: 1, readings: "answers" },
  "reverse-polarity": { title: "Reversal test", version: 1, readings: "points" },
} as const satisfies Readonly<Record<string, Facts>>;

interface Facts {
  readonly title: string;
  readonly version: number;
  readonly readings: "points" | "trace" | "answers";
  /** It charges the cell or pack that it takes. */
  readonly charges?: true;
  /** Its readings are those of an oscilloscope, not of meters. */
  readonly oscilloscope?: true;
}
const facts = (id: string): Facts | undefined => (PROCEDURE_FACTS as Readonly<Record<string, Facts>>)[id];

/** What a procedure is called on screens; its id where this version has none of that name. */
export const procedureTitle = (id: string): string => facts(id)?.title ?? id;
export const procedureVersion = (id: string): number => facts(id)?.version ?? 0;
export const chargesItsCell = (id: string): boolean => facts(id)?.charges ?? false;
export const readingsOf = (id: string): Facts["readings"] => facts(id)?.readings ?? "points";

/** What is assumed of instruments whose accuracy nobody stated, in words. */
export const assumedInstruments = (id: string): string =>
  facts(id)?.oscilloscope
    ? "an ordinary oscilloscope, ±(3 % + 1 step of 8 bits)"
    : "ordinary handheld meters, ±(0.5 % + 3 counts)";
export const readByOscilloscope = (id: string): boolean => facts(id)?.oscilloscope ?? false;

/** The page of a run, by its state and the kind of its readings. */
export const runPage = (procedure: string, state: "prepared" | "open" | "finished"): string =>
  state === "prepared"
    ? "prepare"
    : state === "finished"
      ? "review"
      : { trace: "log", points: "capture", answers: "checklist" }[readingsOf(procedure)];
