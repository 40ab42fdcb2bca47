/** A field that was changed on both sides since they parted, to different values. */
export interface Clash {
  /** Keys from the record to the field. */
  readonly path: readonly string[];
  readonly base: unknown;
  readonly mine: unknown;
  readonly theirs: unknown;
}

export interface ThreeWay<T> {
  /** Both changes in one; where they clash, what is there. */
  readonly value: T;
  readonly clashes: readonly Clash[];
}

type Plain = Readonly<Record<string, unknown>>;
const isPlain = (v: unknown): v is Plain =>
  typeof v === "object" && v !== null && !Array.isArray(v) && !ArrayBuffer.isView(v);
const isIdentified = (v: unknown): v is readonly (Plain & { readonly id: string })[] =>
  Array.isArray(v) &&
  v.every((x) => isPlain(x) && typeof x.id === "string") &&
  new Set(v.map((x) => (x as { id: string }).id)).size === v.length;
const isSet = (v: unknown): v is readonly string[] =>
  Array.isArray(v) && v.every((x) => typeof x === "string") && new Set(v).size === v.length;

/** Equality of JSON values; bytes are compared one by one, and an absent key is as good as undefined. */
export function sameValue(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (ArrayBuffer.isView(a) && ArrayBuffer.isView(b)) {
    const [x, y] = [a as Uint8Array, b as Uint8Array];
    return x.length === y.length && x.every((v, i) => v === y[i]);
  }
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((x, i) => sameValue(x, b[i]));
  if (!isPlain(a) || !isPlain(b)) return false;
  return [...new Set([...Object.keys(a), ...Object.keys(b)])].every((k) => sameValue(own(a, k), own(b, k)));
}
const own = (o: Plain, k: string): unknown => (Object.hasOwn(o, k) ? o[k] : undefined);

/** How a value is told when it was stored: never a difference that anybody made. */
const STAMPS: ReadonlySet<string> = new Set(["updatedAt", "lineage"]);

/**
 * Merges what was changed from `base` to `mine` into what is there now.
 *
 * Objects are merged key by key, lists of things with an id thing by thing, lists of different words as sets; anything else is one value.
 * An object of another `kind` is one value too: half of one kind and half of another would be neither.
 */
export function threeWay<T>(base: T, mine: T, there: T): ThreeWay<T> {
  const clashes: Clash[] = [];
  const merge = (b: unknown, m: unknown, t: unknown, path: readonly string[]): unknown => {
    if (sameValue(b, m)) return t;
    if (sameValue(b, t) || sameValue(m, t)) return m;
    if (isPlain(b) && isPlain(m) && isPlain(t) && b.kind === m.kind && m.kind === t.kind) {
      const keys = [...new Set([...Object.keys(t), ...Object.keys(m)])];
      return Object.fromEntries(
        keys.flatMap((k) => {
          if (path.length === 0 && STAMPS.has(k)) return [[k, own(t, k) ?? own(m, k)]];
          const v = merge(own(b, k), own(m, k), own(t, k), [...path, k]);
          return v === undefined ? [] : [[k, v]];
        }),
      );
    }
    if (isIdentified(b) && isIdentified(m) && isIdentified(t) && t.length + m.length > 0) {
      const by = (list: readonly { readonly id: string }[]) => new Map(list.map((x) => [x.id, x]));
      const [bs, ms, ts] = [by(b), by(m), by(t)];
      return [...new Set([...ts.keys(), ...ms.keys()])].flatMap((id) => {
        const v = merge(bs.get(id), ms.get(id), ts.get(id), [...path, id]);
        return v === undefined ? [] : [v];
      });
    }
    if (isSet(b) && isSet(m) && isSet(t))
      return [
        ...t.filter((x) => m.includes(x) || !b.includes(x)),
        ...m.filter((x) => !b.includes(x) && !t.includes(x)),
      ];
    clashes.push({ path, base: b, mine: m, theirs: t });
    return t;
  };
  return { value: merge(base, mine, there, []) as T, clashes };
}

/** `value` with `mine` put in the place of each clash. */
export function withMine<T>({ value, clashes }: ThreeWay<T>): T {
  const put = (at: unknown, path: readonly string[], v: unknown): unknown => {
    const [key, ...rest] = path;
    if (key === undefined) return v;
    if (isIdentified(at)) {
      const present = at.some((x) => x.id === key);
      if (rest.length === 0 && v === undefined) return at.filter((x) => x.id !== key);
      return present
        ? at.map((x) => (x.id === key ? put(x, rest, v) : x))
        : [...(at as readonly unknown[]), put({}, rest, v)];
    }
    const from: Plain = isPlain(at) ? at : {};
    const next = put(own(from, key), rest, v);
    const others = Object.entries(from).filter(([k]) => k !== key);
    return Object.fromEntries(next === undefined ? others : [...others, [key, next]]);
  };
  return clashes.reduce<unknown>((v, c) => put(v, c.path, c.mine), value) as T;
}
