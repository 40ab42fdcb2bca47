/** Load resistors from a drawer: which ones, singly or two or three together, come nearest to a load current. */

export interface DrawerResistor {
  readonly ohms: number;
  readonly watts: number;
}

export type Arrangement = "single" | "series" | "parallel" | "series-parallel";

export interface LoadChoice {
  /** The current aimed at, in A. */
  readonly target: number;
  readonly ohms: number;
  /** Nominal output ÷ ohms, in A. */
  readonly amps: number;
  readonly arrangement: Arrangement;
  /** Written out: `10 Ω`, `10 Ω + 4.7 Ω`, `10 Ω ∥ 22 Ω`, `(10 Ω ∥ 22 Ω) + 4.7 Ω`. */
  readonly text: string;
  /** Heat in the hardest-driven piece ÷ its rating; at most 0.5 is the rule. */
  readonly strain: number;
  /** Whether every piece stands the heat with a factor of two in hand. */
  readonly cool: boolean;
}

interface Combination {
  readonly ohms: number;
  readonly pieces: readonly number[];
  readonly arrangement: Arrangement;
}

const written = (ohms: number): string => `${Number(ohms.toPrecision(4))} Ω`;

/** Shares of the total power that each piece takes, in the order of `pieces`. */
function powerShares(c: Combination, drawer: readonly DrawerResistor[]): number[] {
  const r = c.pieces.map((i) => (drawer[i] as DrawerResistor).ohms);
  switch (c.arrangement) {
    case "single":
      return [1];
    case "series":
      return r.map((x) => x / c.ohms);
    case "parallel":
      return r.map((x) => c.ohms / x);
    case "series-parallel": {
      // The first two in parallel, the third in series with them.
      const [a = 0, b = 0, s = 0] = r;
      const pair = (a * b) / (a + b);
      return [((pair / c.ohms) * b) / (a + b), ((pair / c.ohms) * a) / (a + b), s / c.ohms];
    }
  }
}

function arrangementText(kind: Arrangement, r: readonly number[]): string {
  const t = r.map(written);
  if (kind === "series") return t.join(" + ");
  if (kind === "parallel") return t.join(" ∥ ");
  if (kind === "series-parallel") return `(${t[0]} ∥ ${t[1]}) + ${t[2]}`;
  return t[0] ?? "";
}

const ohmsOf = (kind: Arrangement, r: readonly number[]): number => {
  if (kind === "parallel") return 1 / r.reduce((s, x) => s + 1 / x, 0);
  if (kind === "series-parallel") return ((r[0] as number) * (r[1] as number)) / ((r[0] as number) + (r[1] as number)) + (r[2] as number);
  return r.reduce((s, x) => s + x, 0);
};

/**
 * Chooses for each target (A, positive) the arrangement of up to three pieces whose current at `volts` is nearest.
 *
 * Every single piece, pair and triple of the drawer is tried (each piece once; triples all in series, all in parallel,
 * or a parallel pair with the third in series). Pieces that stand the heat with a factor of two win over a nearer hot
 * choice as long as one lies within 10 % of the target. Fewer pieces win a tie. Cost grows with the cube of the
 * drawer: 60 pieces, 30 targets are some 0.2 million arrangements.
 */
export function chooseLoads(targets: readonly number[], volts: number, drawer: readonly DrawerResistor[]): LoadChoice[] {
  if (!(volts > 0)) throw new RangeError(`chooseLoads: volts ${volts} must be positive`);
  const order = targets.map((t, i) => ({ t, i })).filter((x) => x.t > 0).sort((a, b) => volts / a.t - volts / b.t);
  const wanted = order.map((x) => Math.log(volts / x.t));
  const best = order.map(() => ({ cool: null as Combination | null, coolMiss: Infinity, any: null as Combination | null, anyMiss: Infinity }));
  const n = drawer.length;

  const strainOf = (c: Combination): number => {
    const power = (volts * volts) / c.ohms;
    return Math.max(...powerShares(c, drawer).map((s, k) => (s * power) / (drawer[c.pieces[k] as number] as DrawerResistor).watts));
  };
  const offer = (kind: Arrangement, pieces: readonly number[], ohms: number): void => {
    const log = Math.log(ohms);
    for (let k = 0; k < wanted.length; k++) {
      const miss = Math.abs(log - (wanted[k] as number)) + 0.002 * (pieces.length - 1);
      const slot = best[k] as (typeof best)[number];
      if (miss >= slot.anyMiss && miss >= slot.coolMiss) continue;
      const c: Combination = { ohms, pieces: [...pieces], arrangement: kind };
      if (miss < slot.anyMiss) {
        slot.any = c;
        slot.anyMiss = miss;
      }
      if (miss < slot.coolMiss && strainOf(c) <= 0.5) {
        slot.cool = c;
        slot.coolMiss = miss;
      }
    }
  };
  const r = (i: number) => (drawer[i] as DrawerResistor).ohms;
  for (let a = 0; a < n; a++) {
    offer("single", [a], r(a));
    for (let b = a + 1; b < n; b++) {
      offer("series", [a, b], r(a) + r(b));
      const pair = (r(a) * r(b)) / (r(a) + r(b));
      offer("parallel", [a, b], pair);
      for (let c = 0; c < n; c++) {
        if (c === a || c === b) continue;
        offer("series-parallel", [a, b, c], pair + r(c));
        if (c > b) {
          offer("series", [a, b, c], r(a) + r(b) + r(c));
          offer("parallel", [a, b, c], (pair * r(c)) / (pair + r(c)));
        }
      }
    }
  }
  const found: (LoadChoice | null)[] = targets.map(() => null);
  order.forEach(({ t, i }, k) => {
    const slot = best[k] as (typeof best)[number];
    const c = slot.cool && (slot.coolMiss <= 0.1 || slot.coolMiss <= slot.anyMiss * 1.5) ? slot.cool : (slot.any ?? slot.cool);
    if (!c) return;
    const values = c.pieces.map(r);
    const strain = strainOf(c);
    found[i] = {
      target: t,
      ohms: ohmsOf(c.arrangement, values),
      amps: volts / c.ohms,
      arrangement: c.arrangement,
      text: arrangementText(c.arrangement, values),
      strain,
      cool: strain <= 0.5,
    };
  });
  return found.filter((x): x is LoadChoice => x !== null);
}
