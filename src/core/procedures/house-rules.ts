/** What the tester's house has settled once; each carries its reason on the screen where it is set. */
export interface HouseRules {
  /** Battery voltages that stand for full, nominal and nearly empty, in V. */
  readonly batteryFull: number;
  readonly batteryNominal: number;
  readonly batteryEmpty: number;
  /** Share of nominal within which an output counts as held. */
  readonly regulationBand: number;
  /** Tolerance given to a bare claimed number. */
  readonly houseTolerance: number;
  /** Coverage factor of expanded uncertainties. */
  readonly coverage: number;
  /** s that a point must stand before it counts as held. */
  readonly dwell: number;
  /** A within which the highest load held is to be known. */
  readonly bisection: number;
  /** °C at which a part stops a run. */
  readonly partLimit: number;
}

export const HOUSE_RULES: HouseRules = {
  batteryFull: 4.1,
  batteryNominal: 3.6,
  batteryEmpty: 3.1,
  regulationBand: 0.05,
  houseTolerance: 0.05,
  coverage: 2,
  dwell: 5,
  bisection: 0.02,
  partLimit: 85,
};

export interface RuleText {
  readonly key: keyof HouseRules;
  readonly label: string;
  readonly unit: "V" | "1" | "s" | "A" | "°C" | "";
  readonly low: number;
  readonly high: number;
  readonly reason: string;
}

export const RULE_TEXTS: readonly RuleText[] = [
  { key: "batteryFull", label: "Full battery", unit: "V", low: 3.5, high: 4.5, reason: "A cell just off the charger sags to about 4.1 V under load; a higher setting flatters the board." },
  { key: "batteryNominal", label: "Nominal battery", unit: "V", low: 3, high: 4, reason: "Where a lithium-ion cell spends most of its charge." },
  { key: "batteryEmpty", label: "Nearly empty battery", unit: "V", low: 2.5, high: 3.6, reason: "The board must work here too; going lower costs cell life and tests little more." },
  { key: "regulationBand", label: "Regulation band", unit: "1", low: 0.005, high: 0.2, reason: "Most 5 V loads accept ±5 %; outside it the output has fallen." },
  { key: "houseTolerance", label: "Tolerance of a bare number", unit: "1", low: 0.001, high: 0.5, reason: "A listing that says “5 V” without a tolerance is given this one, named as ours." },
  { key: "coverage", label: "Coverage factor", unit: "", low: 1, high: 3, reason: "k = 2 covers about 95 %." },
  { key: "dwell", label: "Dwell before a point counts", unit: "s", low: 0, high: 600, reason: "A board can hold for a second what it drops when its parts have warmed." },
  { key: "bisection", label: "Highest load known within", unit: "A", low: 0.001, high: 1, reason: "Finer costs points; 20 mA is about what a listing's rounding hides." },
  { key: "partLimit", label: "Part temperature that stops a run", unit: "°C", low: 40, high: 150, reason: "Solder and nearby cells suffer above it." },
];
