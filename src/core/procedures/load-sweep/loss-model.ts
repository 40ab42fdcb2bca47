import { ELEMENTS, fitPolynomial, median, standardUncertainty } from "../../quantities";
import type { SweepPoint } from "./points";

const { nth } = ELEMENTS;

/** P_loss = p0 + p1·I + p2·I²: idle, proportional and resistive parts, in W, W/A and W/A² (Ω). */
export interface LossModel {
  readonly idle: number;
  readonly proportional: number;
  readonly resistive: number;
  /** Ids of points whose loss lies off the curve by more than scatter and reading explain. */
  readonly outliers: readonly string[];
  /** Root mean square of the residuals, W. */
  readonly scatter: number;
}

/**
 * Fits the loss model to the points of one column that are in regulation.
 *
 * Least squares weighted by the reach of each reading, so that milliwatts at light load are not drowned by the loss
 * at full load. Returns null with fewer than four points or loads. Outliers (beyond 5 robust deviations and three
 * reading uncertainties) are flagged; none is left out by itself, but the fit is made again without them so that one
 * bad point does not bend the curve through the rest.
 */
export function fitLossModel(points: readonly SweepPoint[]): LossModel | null {
  const usable = points.filter((p) => p.inBand);
  const fit = (subset: readonly SweepPoint[]) =>
    subset.length < 4
      ? null
      : fitPolynomial(
          subset.map((p) => p.outputI.value),
          subset.map((p) => p.loss.value),
          2,
          subset.map((p) => 1 / (0.002 + 0.02 * Math.abs(p.loss.value)) ** 2),
        );
  const first = fit(usable);
  if (!first) return null;
  const relative = usable.map((p, i) => nth(first.residuals, i) / (0.002 + 0.02 * Math.abs(p.loss.value)));
  const spread = 1.4826 * median(relative.map(Math.abs));
  const outliers = usable.filter((p, i) => {
    const own = standardUncertainty(p.loss);
    return (
      usable.length >= 6 &&
      Math.abs(nth(relative, i)) > 5 * Math.max(spread, 0.1) &&
      Math.abs(nth(first.residuals, i)) > 3 * own
    );
  });
  const model =
    outliers.length > 0 && outliers.length <= usable.length / 4 ? usable.filter((p) => !outliers.includes(p)) : usable;
  const final = (model === usable ? first : fit(model)) ?? first;
  const [idle = 0, proportional = 0, resistive = 0] = final.coefficients;
  const scatter = Math.sqrt(final.residuals.reduce((s, r) => s + r * r, 0) / final.residuals.length);
  return { idle, proportional, resistive, outliers: outliers.map((p) => p.id), scatter };
}

/** Loss in W at a load current in A. */
export const lossAt = (m: LossModel, amps: number): number =>
  m.idle + m.proportional * amps + m.resistive * amps * amps;

/** Efficiency at a load (A) and an output voltage (V). Domain: amps > 0; 0 at no load. */
export function efficiencyAt(m: LossModel, amps: number, volts: number): number {
  const out = amps * volts;
  const total = out + lossAt(m, amps);
  return out > 0 && total > 0 ? out / total : 0;
}
