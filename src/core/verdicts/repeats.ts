import { formatConditions, touchedBy, type Conditions } from "../characteristics";
import type { Finding } from "../measurement";
import { scatterOfMean, type Unit, type ErrorSource, sameSource } from "../quantities";
import type { EvidenceRun } from "./judge-claim";

/** A quantity that several runs of one sample found under the same conditions: their mean, with what they scatter by. */
export interface Repeated {
  readonly characteristic: string;
  readonly conditions: Conditions;
  readonly unit: Unit;
  readonly value: number;
  /** k = 2; absent where a meter behind one of them has no stated accuracy. */
  readonly expandedUncertainty?: number;
  readonly runs: readonly { readonly id: string; readonly title: string }[];
}

interface Found {
  readonly run: EvidenceRun;
  readonly finding: Finding & { readonly value: number };
}

/** A number of a fair run that stands by itself: no bound, no bracket, no result of several runs. */
const plain = (f: Finding): f is Finding & { readonly value: number } =>
  typeof f.value === "number" && f.unfair.length === 0 && !f.bound && !f.bracket && !f.over;

/** What acts on all runs alike, so that more of them don't lower it: gain and offset of one meter, stated leads, a model's own error. */
const isCommon = ({ kind }: ErrorSource): boolean => kind !== "own" && kind !== "sampling";

const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;

/** Standard uncertainty of the mean: what all runs share, in full, and what they scatter by; two runs that agree by chance are held to their own readings. */
function doubt(found: readonly Found[]): number | null {
  if (found.some(({ finding: f }) => f.expandedUncertainty === undefined)) return null;
  const budgets = found.map(({ finding }) => finding.budget);
  const shared = budgets.flat().flatMap(({ source }) => (isCommon(source) ? [source] : []));
  const common = shared
    .filter((source, k) => shared.findIndex((s) => sameSource(s, source)) === k)
    .reduce(
      (sum, source) => sum + mean(budgets.map((b) => b.find((x) => sameSource(x.source, source))?.u ?? 0)) ** 2,
      0,
    );
  const own =
    mean(
      found.map(({ finding: f }, k) =>
        Math.max(
          0,
          ((f.expandedUncertainty ?? 0) / 2) ** 2 -
            (budgets[k] ?? []).reduce((sum, x) => sum + (isCommon(x.source) ? x.u ** 2 : 0), 0),
        ),
      ),
    ) / found.length;
  return Math.sqrt(common + Math.max(own, scatterOfMean(found.map(({ finding }) => finding.value)) ** 2));
}

/** Runs that are finished and not excluded: the real ones, or the simulated ones where there are no others. */
function countingOf(runs: readonly EvidenceRun[]): readonly EvidenceRun[] {
  const counting = runs.filter((r) => r.finished && r.setAside === null);
  const real = counting.filter((r) => !r.simulated);
  return real.length ? real : counting;
}

/**
 * What several fair runs of a sample found under the same conditions and with the same programming resistor, as mean ± U: u² = s²/n with the
 * t factor of n − 1, and what acts on all of them alike (JCGM 100, 4.2.3 and 5.2.2). Real and simulated runs are never mixed: where there are
 * real ones, they alone count.
 */
export function repeatsOf(runs: readonly EvidenceRun[]): Repeated[] {
  const groups = new Map<string, Found[]>();
  for (const run of countingOf(runs))
    for (const finding of run.findings) {
      if (!plain(finding) || touchedBy(finding.characteristic, run.modifiedFunctions)) continue;
      const key = `${finding.characteristic}|${formatConditions(finding.conditions)}|${run.programme ?? ""}`;
      groups.set(key, [...(groups.get(key) ?? []), { run, finding }]);
    }
  return [...groups.values()].flatMap((found): Repeated[] => {
    const [first] = found;
    if (!first || found.length < 2) return [];
    const u = doubt(found);
    const { characteristic, conditions, unit } = first.finding;
    return [
      {
        characteristic,
        conditions,
        unit,
        value: mean(found.map((f) => f.finding.value)),
        ...(u === null ? {} : { expandedUncertainty: 2 * u }),
        runs: found.map(({ run: { id, title } }) => ({ id, title })),
      },
    ];
  });
}

/** In which order the channels of a charger signal done, over several runs. */
export interface ChannelOrders {
  /** Each order that was seen, with how many runs showed it, the most frequent first. */
  readonly orders: readonly { readonly channels: readonly number[]; readonly runs: number }[];
  /** Runs in which two channels signalled too close together to tell them apart. */
  readonly unclear: number;
}

const IN_ORDER = "channels.done-current";

/** Variance of a finding that is its own: without what every reading of the run shares. */
const ownVariance = (f: Finding): number =>
  Math.max(
    0,
    ((f.expandedUncertainty ?? Infinity) / 2) ** 2 -
      f.budget.reduce((sum, x) => sum + (isCommon(x.source) ? x.u ** 2 : 0), 0),
  );

/**
 * The order in which a charger's channels signalled done in each of a sample's runs: the current into the cell falls from one signal to the
 * next, so the first to signal is the one at the highest current. Null where fewer than two fair runs saw the same channels.
 */
export function channelOrders(runs: readonly EvidenceRun[]): ChannelOrders | null {
  const seen = countingOf(runs).flatMap((run) => {
    const order = touchedBy(IN_ORDER, run.modifiedFunctions)
      ? []
      : run.findings.flatMap((f) =>
          f.characteristic === IN_ORDER && plain(f) && typeof f.conditions.channel === "number"
            ? [{ channel: f.conditions.channel, value: f.value, own: ownVariance(f) }]
            : [],
        );
    return order.length < 2 ? [] : [order.sort((a, b) => b.value - a.value)];
  });
  const most = seen.reduce((n, found) => Math.max(n, found.length), 0);
  const whole = seen.filter((found) => found.length === most);
  if (whole.length < 2) return null;
  const counts = new Map<string, { channels: number[]; runs: number }>();
  let unclear = 0;
  for (const order of whole) {
    if (
      order.some(
        (f, k) => k > 0 && (order[k - 1]?.value ?? 0) - f.value <= 2 * Math.sqrt(f.own + (order[k - 1]?.own ?? 0)),
      )
    ) {
      unclear++;
      continue;
    }
    const channels = order.map((f) => f.channel);
    const count = counts.get(channels.join());
    counts.set(channels.join(), { channels, runs: (count?.runs ?? 0) + 1 });
  }
  return { orders: [...counts.values()].sort((a, b) => b.runs - a.runs), unclear };
}
