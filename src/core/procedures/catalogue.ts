/**
 * The procedures that there are, a line each: what is known of it apart from its code, and how its code is loaded. Whoever only asks whether
 * kept results are still good, or what a run's page is, loads no procedure; a worker that judges load sweeps carries no other.
 */
import type { Procedure, ProcedureFacts } from "./contract";
import { behaviourFacts } from "./behaviour/facts";
import { chargeChannelsFacts } from "./charge-channels/facts";
import { chargeCycleFacts } from "./charge-cycle/facts";
import { dischargeFacts } from "./discharge/facts";
import { heatSoakFacts } from "./heat-soak/facts";
import { lightLoadFacts } from "./light-load/facts";
import { loadSweepFacts } from "./load-sweep/facts";
import { meterCheckFacts } from "./meter-check/facts";
import { overloadFacts } from "./overload/facts";
import { packChargeFacts } from "./pack-charge/facts";
import { powerPathFacts } from "./power-path/facts";
import { restCheckFacts } from "./rest-check/facts";
import { reversePolarityFacts } from "./reverse-polarity/facts";
import { rippleFacts } from "./ripple/facts";
import { solarInputFacts } from "./solar-input/facts";
import { standbyFacts } from "./standby/facts";
import { thresholdRampFacts } from "./threshold-ramp/facts";

interface Entry {
  readonly facts: ProcedureFacts;
  load(): Promise<unknown>;
}

const CATALOGUE: readonly Entry[] = [
  { facts: chargeCycleFacts, load: async () => (await import("./charge-cycle")).chargeCycle },
  { facts: chargeChannelsFacts, load: async () => (await import("./charge-channels")).chargeChannels },
  { facts: loadSweepFacts, load: async () => (await import("./load-sweep")).loadSweep },
  { facts: rippleFacts, load: async () => (await import("./ripple")).ripple },
  { facts: heatSoakFacts, load: async () => (await import("./heat-soak")).heatSoak },
  { facts: thresholdRampFacts, load: async () => (await import("./threshold-ramp")).thresholdRamp },
  { facts: standbyFacts, load: async () => (await import("./standby")).standby },
  { facts: lightLoadFacts, load: async () => (await import("./light-load")).lightLoad },
  { facts: solarInputFacts, load: async () => (await import("./solar-input")).solarInput },
  { facts: powerPathFacts, load: async () => (await import("./power-path")).powerPath },
  { facts: overloadFacts, load: async () => (await import("./overload")).overload },
  { facts: packChargeFacts, load: async () => (await import("./pack-charge")).packCharge },
  { facts: meterCheckFacts, load: async () => (await import("./meter-check")).meterCheck },
  { facts: dischargeFacts, load: async () => (await import("./discharge")).discharge },
  { facts: restCheckFacts, load: async () => (await import("./rest-check")).restCheck },
  { facts: behaviourFacts, load: async () => (await import("./behaviour")).behaviour },
  { facts: reversePolarityFacts, load: async () => (await import("./reverse-polarity")).reversePolarity },
];

/** What is known of every procedure, in the order of the catalogue. */
export const PROCEDURE_FACTS: readonly ProcedureFacts[] = CATALOGUE.map((entry) => entry.facts);

const entry = (id: string): Entry | undefined => CATALOGUE.find((e) => e.facts.id === id);
/** What is known of one; undefined where this version has none of that name. */
export const factsOf = (id: string): ProcedureFacts | undefined => entry(id)?.facts;

/** One procedure's code, loaded when it is needed. */
export const loadProcedure = async (id: string): Promise<Procedure | undefined> =>
  (await entry(id)?.load()) as Procedure | undefined;

/** What a procedure is called on screens; its id where this version has none of that name. */
export const procedureTitle = (id: string): string => factsOf(id)?.title ?? id;
export const procedureVersion = (id: string): number => factsOf(id)?.version ?? 0;
export const chargesItsCell = (id: string): boolean => factsOf(id)?.charges ?? false;
export const readingsOf = (id: string): ProcedureFacts["readings"] => factsOf(id)?.readings ?? "points";

/** What is assumed of instruments whose accuracy nobody stated, in words. */
export const assumedInstruments = (id: string): string =>
  factsOf(id)?.oscilloscope
    ? "an ordinary oscilloscope, ±(3 % + 1 step of 8 bits)"
    : "ordinary handheld meters, ±(0.5 % + 3 counts)";
export const readByOscilloscope = (id: string): boolean => factsOf(id)?.oscilloscope ?? false;

/** The page of a run, by its state and the kind of its readings. */
export const runPage = (procedure: string, state: "prepared" | "open" | "finished"): string =>
  state === "prepared"
    ? "prepare"
    : state === "finished"
      ? "review"
      : { trace: "log", points: "capture", answers: "checklist" }[readingsOf(procedure)];
