/**
 * What is said of each procedure apart from its code: whoever only asks whether kept findings are still good, or what
 * kind of readings a run has, loads no procedure. Raise a version when what its analysis gives for the same readings
 * changes.
 */
export const PROCEDURE_FACTS = {
  "load-sweep": { version: 2, readings: "points" },
  "charge-cycle": { version: 4, readings: "trace" },
  "threshold-ramp": { version: 2, readings: "trace" },
  standby: { version: 3, readings: "trace" },
  "light-load": { version: 2, readings: "trace" },
  overload: { version: 2, readings: "trace" },
  "heat-soak": { version: 3, readings: "trace" },
  "power-path": { version: 2, readings: "trace" },
  "solar-input": { version: 1, readings: "trace" },
  "meter-check": { version: 1, readings: "trace" },
  discharge: { version: 2, readings: "trace" },
  "rest-check": { version: 2, readings: "points" },
  "pack-charge": { version: 4, readings: "trace" },
  "charge-channels": { version: 2, readings: "points" },
  behaviour: { version: 1, readings: "answers" },
  "reverse-polarity": { version: 1, readings: "points" },
} as const satisfies Readonly<Record<string, { version: number; readings: "points" | "trace" | "answers" }>>;

type Facts = { readonly version: number; readonly readings: "points" | "trace" | "answers" };
const facts = (id: string): Facts | undefined => (PROCEDURE_FACTS as Readonly<Record<string, Facts>>)[id];

export const procedureVersion = (id: string): number => facts(id)?.version ?? 0;
export const readingsOf = (id: string): Facts["readings"] => facts(id)?.readings ?? "points";

/** The page of a run, by its state and the kind of its readings. */
export const runPage = (procedure: string, state: "prepared" | "open" | "finished"): string => (state === "prepared" ? "prepare" : state === "finished" ? "review" : { trace: "log", points: "capture", answers: "checklist" }[readingsOf(procedure)]);
