import { nearestStandard, type SeriesName } from "../../quantities";

/** A divider that sets the volts at which a charger holds its panel. */
export interface Divider {
  /** V at which the charger compares. */
  readonly reference: number;
  /** Ω from panel to the pin, and from the pin to minus. */
  readonly top: number;
  readonly bottom: number;
}

/** V_mp = V_ref·(1 + R_top/R_bottom). Worked: 0.96 V, 430 kΩ and 82 kΩ hold a panel at 5.99 V. */
export const heldVoltage = (d: Divider): number => d.reference * (1 + d.top / d.bottom);

/** The standard top resistor that comes nearest to holding `volts` with the bottom one there is. */
export const topFor = (volts: number, d: Pick<Divider, "reference" | "bottom">, series: SeriesName): number =>
  nearestStandard(series, d.bottom * (volts / d.reference - 1));

/**
 * Open-circuit volts of a panel in the cold. `open` V at 25 °C, `coefficient` share of it a kelvin (negative), `ambient` °C.
 * Worked: 7.2 V at −0.32 %/K and −15 °C is 8.12 V.
 */
export const coldOpenVoltage = (open: number, coefficient: number, ambient: number): number =>
  open * (1 + coefficient * (ambient - 25));
