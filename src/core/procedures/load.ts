import type { Procedure } from "./shape";

/** One procedure's code, loaded when it is needed: a worker that judges load sweeps carries no other. */
export async function loadProcedure(id: string): Promise<Procedure | undefined> {
  switch (id) {
    case "load-sweep":
      return (await import("./load-sweep")).loadSweep;
    case "charge-cycle":
      return (await import("./charge-cycle")).chargeCycle;
    case "threshold-ramp":
      return (await import("./threshold-ramp")).thresholdRamp as Procedure;
    case "standby":
      return (await import("./standby")).standby as Procedure;
    case "light-load":
      return (await import("./light-load")).lightLoad as Procedure;
    case "overload":
      return (await import("./overload")).overload as Procedure;
    case "heat-soak":
      return (await import("./heat-soak")).heatSoak as Procedure;
    case "power-path":
      return (await import("./power-path")).powerPath as Procedure;
    case "solar-input":
      return (await import("./solar-input")).solarInput as Procedure;
    case "meter-check":
      return (await import("./meter-check")).meterCheck as Procedure;
    case "discharge":
      return (await import("./discharge")).discharge as Procedure;
    case "rest-check":
      return (await import("./rest-check")).restCheck;
    case "pack-charge":
      return (await import("./pack-charge")).packCharge;
    case "behaviour":
      return (await import("./behaviour")).behaviour as Procedure;
    case "reverse-polarity":
      return (await import("./reverse-polarity")).reversePolarity as Procedure;
    case "ripple":
      return (await import("./ripple")).ripple;
    case "charge-channels":
      return (await import("./charge-channels")).chargeChannels;
    default:
      return undefined;
  }
}
