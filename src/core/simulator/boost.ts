/** A boost converter from its component equations. Nothing here knows the polynomial that an analysis fits. */

export interface BoostModel {
  /** Output with no load at 3.7 V battery, V. */
  readonly setpoint: number;
  /** Fall of the set-point with load (loop gain and wiring), Ω. */
  readonly droop: number;
  /** Rise of the set-point with battery volts, V/V. */
  readonly lineSlope: number;
  readonly inductorOhms: number;
  readonly switchOhms: number;
  readonly rectifier:
    | { readonly kind: "synchronous"; readonly ohms: number }
    | { readonly kind: "diode"; readonly volts: number; readonly ohms: number };
  /** Hz. */
  readonly frequency: number;
  /** Rise plus fall time of a switching edge, s. */
  readonly transition: number;
  /** Gate charge a cycle, C. */
  readonly gateCharge: number;
  /** Control current drawn from the battery, A. */
  readonly quiescent: number;
  /** Load below which cycles are skipped in proportion, A. */
  readonly burstBelow: number;
  /** Mean battery-side current at which the switch's peak current is limited, A. */
  readonly inputLimit: number;
  /** Share of that limit available while the output rises from off. */
  readonly startShare: number;
  /** Battery voltage below which it does not switch, V. */
  readonly minimumInput: number;
  /** What it does past the limit: the output droops, or it switches off. */
  readonly overload: "droop" | "off";
  /** What brings the output back after it switched off. */
  readonly recovery: "automatic" | "load-removal" | "power-cycle";
  readonly thermal: { readonly resistance: number; readonly tau: number; readonly copper: number };
  /** What it does with its battery terminals reversed; blocks where nothing is said. */
  readonly reverse?: ReverseModel;
}

/** A board with its battery terminals swapped: a switch blocks, or a diode and what lies behind it conduct. */
export interface ReverseModel {
  /** Forward volts and Ω of what conducts; absent where it blocks, up to `leak`. */
  readonly conducts?: { readonly volts: number; readonly ohms: number };
  /** A that leak through what blocks. */
  readonly leak: number;
  /** A beyond which it is hurt within a moment, and how: nothing comes out any more, or its output has shifted by a share. */
  readonly hurtAbove?: number;
  readonly hurt?: { readonly kind: "dead" } | { readonly kind: "shifted"; readonly share: number };
}

export type Load = { readonly mode: "current" | "power" | "resistance"; readonly value: number };

export interface BoostState {
  readonly outputVoltage: number;
  readonly outputCurrent: number;
  readonly batteryCurrent: number;
  /** Heat in the module, W. */
  readonly loss: number;
  readonly limited: boolean;
}

/** Current a load takes at a voltage. Electronic loads lose control below about 0.5 V, so nothing diverges there. */
export function loadCurrent(load: Load, volts: number): number {
  if (volts <= 0) return 0;
  const control = Math.min(1, volts / 0.5);
  switch (load.mode) {
    case "current":
      return load.value * control;
    case "resistance":
      return load.value > 0 && Number.isFinite(load.value) ? volts / load.value : 0;
    case "power":
      return (load.value / Math.max(volts, 0.5)) * control;
  }
}

/**
 * Battery current that delivers (vo, io) at vb, by the power balance
 * vb·ib = vo·io + ib²·R + ½·vo·ib·t·f + (gate, control, diode); R sums inductor, switch over the on share D and
 * rectifier over 1 − D, and grows with temperature. Null where no current can carry it.
 */
export function batteryCurrentFor(
  m: BoostModel,
  vb: number,
  vo: number,
  io: number,
  temperature: number,
): number | null {
  const hot = 1 + m.thermal.copper * (temperature - 25);
  const diode = m.rectifier.kind === "diode" ? m.rectifier.volts : 0;
  const duty = Math.min(0.95, Math.max(0, 1 - vb / (vo + diode)));
  const resistance = hot * (m.inductorOhms + duty * m.switchOhms + (1 - duty) * m.rectifier.ohms);
  const cycles = m.burstBelow > 0 ? Math.min(1, Math.max(0.02, io / m.burstBelow)) : 1;
  const edges = 0.5 * vo * m.transition * m.frequency * cycles;
  const fixed = vo * io + io * diode + vb * m.quiescent + m.gateCharge * vo * m.frequency * cycles;
  const b = vb - edges;
  const discriminant = b * b - 4 * resistance * fixed;
  if (b <= 0 || discriminant < 0) return null;
  return (2 * fixed) / (b + Math.sqrt(discriminant));
}

/** With switching at rest the battery reaches the output through inductor and rectifier. */
function passThrough(m: BoostModel, vb: number, load: Load): BoostState {
  const series = m.inductorOhms + m.rectifier.ohms;
  const diode = m.rectifier.kind === "diode" ? m.rectifier.volts : 0.4;
  let vo = Math.max(0, vb - diode);
  for (let k = 0; k < 60; k++) vo = 0.5 * vo + 0.5 * Math.max(0, vb - diode - loadCurrent(load, vo) * series);
  const io = loadCurrent(load, vo);
  return {
    outputVoltage: vo,
    outputCurrent: io,
    batteryCurrent: io + m.quiescent,
    loss: vb * (io + m.quiescent) - vo * io,
    limited: true,
  };
}

/**
 * Steady state at battery volts `vb` (at the module) and a part temperature in °C, with at most `limit` amperes from
 * the battery. Past the limit the output settles where the limited current balances the load.
 */
export function boostState(
  m: BoostModel,
  vb: number,
  load: Load,
  temperature: number,
  limit = m.inputLimit,
): BoostState {
  if (vb < m.minimumInput) return passThrough(m, vb, load);
  const target = (io: number): number => m.setpoint + m.lineSlope * (vb - 3.7) - m.droop * io;
  let vo = target(0);
  for (let k = 0; k < 12; k++) vo = target(loadCurrent(load, vo));
  const io = loadCurrent(load, vo);
  const ib = batteryCurrentFor(m, vb, vo, io, temperature);
  if (ib !== null && ib <= limit)
    return { outputVoltage: vo, outputCurrent: io, batteryCurrent: ib, loss: vb * ib - vo * io, limited: false };
  const floor = passThrough(m, vb, load);
  let low = floor.outputVoltage;
  let high = vo;
  for (let k = 0; k < 50; k++) {
    const mid = (low + high) / 2;
    const need = batteryCurrentFor(m, vb, mid, loadCurrent(load, mid), temperature);
    if (need !== null && need <= limit) low = mid;
    else high = mid;
  }
  if (low <= floor.outputVoltage * 1.001) return floor;
  const current = loadCurrent(load, low);
  const drawn = batteryCurrentFor(m, vb, low, current, temperature) ?? limit;
  return {
    outputVoltage: low,
    outputCurrent: current,
    batteryCurrent: drawn,
    loss: vb * drawn - low * current,
    limited: true,
  };
}
