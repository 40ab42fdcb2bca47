/**
 * When a measurement counts as inside or outside a limit (JCGM 106, 8): `whole interval`, the whole expanded interval has to lie there;
 * `probable`, it lies there with 95 % probability; `estimate`, the value alone decides and its doubt is shared (simple acceptance).
 */
export const GUARDS = ["whole interval", "probable", "estimate"] as const;
export type Guard = (typeof GUARDS)[number];

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
  /** Charge current as a multiple of the cell's capacity an hour. */
  readonly chargeRate: number;
  /** Volts at which a lithium-ion cell counts as full and as empty. */
  readonly chargeFull: number;
  readonly chargeEmpty: number;
  /** State of charge, 0 to 1, up to which cells in use are charged, and down to which they are used. */
  readonly socHigh: number;
  readonly socLow: number;
  /** Rest voltage at which a lithium-ion cell waits for months. */
  readonly storageVoltage: number;
  /** Volts under which a cell is not charged any more. */
  readonly rejectFloor: number;
  /** °C at which a cell stops a charge. */
  readonly cellLimit: number;
  /** V a day by which a charged cell may fall at rest, and days after which it is read again. */
  readonly restDrop: number;
  readonly restDays: number;
  /** Ω·Ah: a cell's resistance may be so much divided by its capacity. */
  readonly cellResistance: number;
  /** Share of its rated capacity that a cell must still hold. */
  readonly cellShare: number;
  /** °C above which a surface is too hot to touch. */
  readonly touchLimit: number;
  readonly guard: Guard;
  /** Significant digits of an uncertainty as it is written. */
  readonly digits: 1 | 2;
}
/** Those that are numbers with a unit; the rest are choices. */
export type NumberRule = Exclude<keyof HouseRules, "guard" | "digits">;

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
  chargeRate: 0.5,
  chargeFull: 4.2,
  chargeEmpty: 3,
  socHigh: 1,
  socLow: 0,
  storageVoltage: 3.8,
  rejectFloor: 2,
  cellLimit: 45,
  restDrop: 0.005,
  restDays: 7,
  cellResistance: 0.3,
  cellShare: 0.7,
  touchLimit: 60,
  guard: "whole interval",
  digits: 2,
};

/** Rules as they were stored, with those that came later as the house first has them. */
export const completeRules = (stored: Partial<HouseRules> | undefined): HouseRules => ({ ...HOUSE_RULES, ...stored });

/** What the rules are about, in the order of a page. */
export const RULE_GROUPS = [
  { group: "verdicts", title: "Verdicts" },
  { group: "battery", title: "Battery voltages" },
  { group: "points", title: "Points" },
  { group: "heat", title: "Heat" },
  { group: "charging", title: "Charging" },
  { group: "cells", title: "Cells in the drawer" },
] as const;
export type RuleGroup = (typeof RULE_GROUPS)[number]["group"];

export interface RuleText {
  readonly key: NumberRule;
  readonly group: RuleGroup;
  readonly label: string;
  readonly unit: "V" | "1" | "s" | "A" | "°C" | "V/day" | "";
  readonly low: number;
  readonly high: number;
  readonly reason: string;
}

export const RULE_TEXTS: readonly RuleText[] = [
  {
    key: "batteryFull",
    group: "battery",
    label: "Full battery",
    unit: "V",
    low: 3.5,
    high: 4.5,
    reason: "A cell just off the charger sags to about 4.1 V under load; a higher setting flatters the board.",
  },
  {
    key: "batteryNominal",
    group: "battery",
    label: "Nominal battery",
    unit: "V",
    low: 3,
    high: 4,
    reason: "Where a lithium-ion cell spends most of its charge.",
  },
  {
    key: "batteryEmpty",
    group: "battery",
    label: "Nearly empty battery",
    unit: "V",
    low: 2.5,
    high: 3.6,
    reason: "The board must work here too; going lower costs cell life and tests little more.",
  },
  {
    key: "regulationBand",
    group: "verdicts",
    label: "Regulation band",
    unit: "1",
    low: 0.005,
    high: 0.2,
    reason: "Most 5 V loads accept ±5 %; outside it the output has fallen.",
  },
  {
    key: "houseTolerance",
    group: "verdicts",
    label: "Tolerance of a bare number",
    unit: "1",
    low: 0.001,
    high: 0.5,
    reason: "Used for a claim such as “5 V” without a tolerance, and labelled as ours.",
  },
  {
    key: "coverage",
    group: "verdicts",
    label: "Coverage factor",
    unit: "",
    low: 1,
    high: 3,
    reason: "k = 2 covers about 95 %.",
  },
  {
    key: "dwell",
    group: "points",
    label: "Dwell before a point counts",
    unit: "s",
    low: 0,
    high: 600,
    reason: "A board can hold for a second what it drops when its parts have warmed.",
  },
  {
    key: "bisection",
    group: "points",
    label: "Highest load known within",
    unit: "A",
    low: 0.001,
    high: 1,
    reason: "Finer costs points; 20 mA is about what a listing's rounding hides.",
  },
  {
    key: "partLimit",
    group: "heat",
    label: "Part temperature limit a run",
    unit: "°C",
    low: 40,
    high: 150,
    reason: "Solder and nearby cells suffer above it.",
  },
  {
    key: "touchLimit",
    group: "heat",
    label: "Too hot to touch above",
    unit: "°C",
    low: 40,
    high: 80,
    reason: "Metal and board at 60 °C burn within seconds. Used on findings sheets and in sums.",
  },
  {
    key: "chargeRate",
    group: "charging",
    label: "Charge current for a cell, × its capacity",
    unit: "",
    low: 0.05,
    high: 1,
    reason: "0.5 is what most cell makers call standard; gentler costs time, faster costs cell life and heat.",
  },
  {
    key: "chargeFull",
    group: "charging",
    label: "Full cell",
    unit: "V",
    low: 3.4,
    high: 4.2,
    reason: "4.2 V stores the most; 3.9 to 4.0 V makes a cell on standby last longer.",
  },
  {
    key: "chargeEmpty",
    group: "charging",
    label: "Empty cell",
    unit: "V",
    low: 2.5,
    high: 3.4,
    reason: "3.0 V leaves a few per cent in the cell and makes it last longer; 2.5 V is the lowest that makers allow.",
  },
  {
    key: "socHigh",
    group: "charging",
    label: "Cells in use are charged to",
    unit: "1",
    low: 0.5,
    high: 1,
    reason: "A whole charge runs longest; a cell that is charged to 80 % lasts several times as many cycles.",
  },
  {
    key: "socLow",
    group: "charging",
    label: "Cells in use are discharged to",
    unit: "1",
    low: 0,
    high: 0.45,
    reason: "Down to 20 % a cell ages less and keeps a reserve; it also runs a fifth shorter.",
  },
  {
    key: "storageVoltage",
    group: "cells",
    label: "Cells are stored at",
    unit: "V",
    low: 3.5,
    high: 4,
    reason: "A lithium-ion cell ages least while it waits about half charged; full, it ages several times as fast.",
  },
  {
    key: "rejectFloor",
    group: "charging",
    label: "Cells under this are not charged",
    unit: "V",
    low: 2,
    high: 3,
    reason:
      "Copper may have dissolved in a cell that was lower: it can short inside while it charges. Never below 2.0 V.",
  },
  {
    key: "cellLimit",
    group: "charging",
    label: "Cell temperature limit a charge",
    unit: "°C",
    low: 30,
    high: 60,
    reason: "Lithium cells are charged between 0 and 45 °C.",
  },
  {
    key: "restDrop",
    group: "cells",
    label: "A charged cell may fall at rest by",
    unit: "V/day",
    low: 0.0005,
    high: 0.05,
    reason: "A good cell loses 1 to 2 mV per day once settled. A larger fall means internal self-discharge.",
  },
  {
    key: "restDays",
    group: "cells",
    label: "Days until a charged cell is read again",
    unit: "",
    low: 1,
    high: 60,
    reason: "In a week a cell that is going bad falls by more than a meter's doubt.",
  },
  {
    key: "cellResistance",
    group: "cells",
    label: "A cell's resistance × its capacity, Ω·Ah, at most",
    unit: "",
    low: 0.02,
    high: 2,
    reason: "Twice to three times that of a new cell: it gets warm, and the load drops out while charge is left.",
  },
  {
    key: "cellShare",
    group: "cells",
    label: "A cell must still hold, share of what it is rated for",
    unit: "1",
    low: 0.3,
    high: 1,
    reason: "Below 70 to 80 % a cell is worn and declines quickly.",
  },
];

/** A rule that is one of a few, each with what speaks for it and what it costs. */
export interface RuleChoice {
  readonly key: "guard" | "digits";
  readonly group: RuleGroup;
  readonly label: string;
  readonly of: readonly {
    readonly value: HouseRules["guard"] | HouseRules["digits"];
    readonly label: string;
    readonly why: string;
  }[];
}
export const RULE_CHOICES: readonly RuleChoice[] = [
  {
    key: "guard",
    group: "verdicts",
    label: "When does a claim count as met or missed?",
    of: [
      {
        value: "whole interval",
        label: "when the whole interval is on one side",
        why: "Safest for both sides: a wrong word in one of forty at the edge. More is too close to call.",
      },
      {
        value: "probable",
        label: "when 95 % of its probability does",
        why: "Calls a little more; one word in twenty at the edge is wrong. What has only a bound is judged by its interval.",
      },
      {
        value: "estimate",
        label: "when the value does",
        why: "Calls everything; at the edge every second word is wrong. Only for a quick sorting.",
      },
    ],
  },
  {
    key: "digits",
    group: "verdicts",
    label: "Digits of an uncertainty",
    of: [
      { value: 2, label: "two", why: "0.0043 V: no rounding loss in later sums." },
      { value: 1, label: "one", why: "0.004 V: shorter to read. Verdicts use unrounded values." },
    ],
  },
];

/** A school of charging: a rule's usual values with what each gives and costs. */
export interface School {
  readonly key: "chargeRate" | "chargeFull" | "chargeEmpty" | "socHigh" | "socLow";
  readonly value: number;
  readonly label: string;
  readonly why: string;
}
export const SCHOOLS: readonly School[] = [
  { key: "chargeRate", value: 0.2, label: "gentle", why: "least heat, longest cell life; about six hours" },
  { key: "chargeRate", value: 1 / 3, label: "a third", why: "as several data sheets advise; about four hours" },
  { key: "chargeRate", value: 0.5, label: "standard", why: "what cell makers test with; about two and a half hours" },
  { key: "chargeRate", value: 0.7, label: "brisk", why: "most cells allow it; warmer, ages faster" },
  { key: "chargeRate", value: 1, label: "fast", why: "only where the cell allows it; hottest, ages fastest" },
  {
    key: "chargeFull",
    value: 4.2,
    label: "most energy",
    why: "all of the rated capacity; ages fastest while it waits full",
  },
  { key: "chargeFull", value: 4, label: "long life", why: "about 85 % of the capacity, several times the cycles" },
  {
    key: "chargeFull",
    value: 3.9,
    label: "standby",
    why: "about 70 % of the capacity; for cells that wait charged for months",
  },
  { key: "socHigh", value: 1, label: "whole charge", why: "the longest run" },
  { key: "socHigh", value: 0.8, label: "long life", why: "a fifth less run time, several times the cycles" },
  { key: "socLow", value: 0, label: "to the end", why: "the cell's floor or the board's cut ends it" },
  { key: "socLow", value: 0.2, label: "with a reserve", why: "a fifth less run time, fewer deep discharges" },
  { key: "chargeEmpty", value: 3.3, label: "careful", why: "costs about 8 % capacity for a longer cell life" },
  { key: "chargeEmpty", value: 3, label: "usual", why: "costs a few per cent capacity" },
  { key: "chargeEmpty", value: 2.8, label: "low", why: "nearly all; the cell sags quickly here" },
  { key: "chargeEmpty", value: 2.5, label: "lowest", why: "the least that cell makers allow; costs cycles" },
];
