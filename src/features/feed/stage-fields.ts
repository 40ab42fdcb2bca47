import type { CHARGER_NUMBERS, FeedCharger, FeedPlan, FeedStage, FeedTolerance, StageKind } from "@/core/use/feed";
import { numberSpec as field, type NumberSpec } from "@/ui/form-numbers";

/** The numbers that describe a stage of each kind. */
export const STAGE_FIELDS: Readonly<Record<StageKind, readonly NumberSpec[]>> = {
  supply: [field("volts", "Supply voltage", "V", 5.1, 0.5, 60), field("limit", "Gives at most", "A", 1, 0.001, 500)],
  panel: [
    field("volts", "Voltage at maximum power", "V", 5.5, 0.5, 100),
    field("limit", "Current at maximum power", "A", 0.36, 0.001, 100),
  ],
  cable: [field("resistance", "Resistance, there and back", "Ω", 0.3, 0, 100)],
  linear: [
    field("volts", "Output voltage", "V", 5, 0.5, 60),
    field("dropout", "Dropout", "V", 1.5, 0, 5),
    field("limit", "Gives at most", "A", 1, 0.001, 100),
    field("hottest", "Highest junction temperature", "°C", 110, 20, 200),
    field("junctionSink", "Junction to sink", "K/W", 6, 0, 200),
  ],
  switching: [
    field("volts", "Output voltage", "V", 5, 0.5, 60),
    field("efficiency", "Efficiency", "1", 0.88, 0.05, 1),
    field("limit", "Gives at most", "A", 2, 0.001, 100),
    field("least", "Lowest input voltage", "V", 6.5, 0.5, 100),
  ],
  port: [field("limit", "Port gives at most", "A", 1, 0.001, 100), field("others", "Others draw", "A", 0, 0, 100)],
};

/** A new stage with what such a stage usually has. */
export const usualStage = (kind: StageKind): FeedStage =>
  ({ kind, ...Object.fromEntries(STAGE_FIELDS[kind].map((f) => [f.key, f.first])) }) as unknown as FeedStage;

/** Sources stand first; everything else stands after them. */
export const isSource = (kind: StageKind): boolean => kind === "supply" || kind === "panel";

type ChargerNumber = (typeof CHARGER_NUMBERS)[number];
export const CHARGER_FIELDS: readonly NumberSpec<ChargerNumber>[] = [
  field("current", "Set current", "A", 0.5, 0.001, 20),
  field("efficiency", "Efficiency", "1", 0.88, 0.05, 1),
  field("quiescent", "Quiescent current", "A", 0.004, 0, 1),
  field("least", "Lowest input voltage", "V", 4.5, 0.5, 60),
  field("dropout", "Dropout above the cell", "V", 0.1, 0, 5),
  field("thermal", "Thermal resistance of the part", "K/W", 60, 0, 500),
  field("foldback", "It cuts its own current at", "°C", 110, 20, 200),
];
export const CELL_FIELDS: readonly NumberSpec<ChargerNumber>[] = [
  field("cellLow", "Lowest cell voltage", "V", 3, 0.5, 60),
  field("cellFull", "Full cell", "V", 4.2, 0.5, 60),
];
export const DAY_FIELDS: readonly NumberSpec<keyof FeedPlan["day"]>[] = [
  field("sun", "Full sun a day", "s", 3 * 3600, 0, 86_400),
  field("load", "Mean load at the battery", "W", 0.2, 0, 1000),
  field("energy", "Energy in the cells", "Wh", 8, 0, 10_000),
];

export const TOLERANCE_FIELDS: readonly NumberSpec<FeedTolerance>[] = [
  field("volts", "Voltages, ±", "1", 0.02, 0, 0.5),
  field("current", "Charge current, ±", "1", 0.1, 0, 0.9),
  field("resistance", "Cables and heat path, ±", "1", 0.1, 0, 0.9),
];
const AMBIENT = field("ambient", "Ambient", "°C", 25, -40, 90);

const firsts = (fields: readonly NumberSpec[]) => Object.fromEntries(fields.map((f) => [f.key, f.first]));

/** What a feed begins with. */
export const USUAL_FEED: FeedPlan = {
  stages: [usualStage("supply"), usualStage("cable")],
  charger: { kind: "linear", ...(firsts([...CHARGER_FIELDS, ...CELL_FIELDS]) as Omit<FeedCharger, "kind">) },
  ambient: AMBIENT.first,
  day: firsts(DAY_FIELDS) as unknown as FeedPlan["day"],
  tolerance: firsts(TOLERANCE_FIELDS) as Record<FeedTolerance, number>,
};

/** A plan as its form begins: one that was saved without tolerances is taken as exact. */
export const planWithTolerance = (plan: FeedPlan): FeedPlan => ({
  tolerance: { volts: 0, current: 0, resistance: 0 },
  ...plan,
});

/** The fields of a charger: a switching one has an efficiency; what cuts the current back is asked of one that warms. */
export function chargerFields({ kind, thermal }: Pick<FeedCharger, "kind" | "thermal">): readonly NumberSpec[] {
  const own = CHARGER_FIELDS.filter(
    (f) => (f.key !== "efficiency" || kind === "switching") && (f.key !== "foldback" || thermal !== 0),
  );
  return [...own, ...CELL_FIELDS].map((f) => ({ ...f, key: `charger.${f.key}` })).concat(AMBIENT);
}

/** What of a plan that is being typed counts: a number that is not asked for can't be wrong. */
export function askedOf(plan: FeedPlan): FeedPlan {
  const asked = new Set(chargerFields(plan.charger).map((f) => f.key));
  const usual = CHARGER_FIELDS.filter((f) => !asked.has(`charger.${f.key}`) && !Number.isFinite(plan.charger[f.key]));
  const day = plan.stages[0]?.kind === "panel" ? plan.day : USUAL_FEED.day;
  return usual.length || day !== plan.day ? { ...plan, charger: { ...plan.charger, ...firsts(usual) }, day } : plan;
}
