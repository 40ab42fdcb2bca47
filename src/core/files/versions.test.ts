import { seeded } from "../simulator";
import { stableJson } from "./versions";

/** As the text is laid down: keys in order at every depth, what is undefined left out. */
function plain(v: unknown): string {
  if (Array.isArray(v)) return `[${v.map(plain).join(",")}]`;
  if (typeof v !== "object" || v === null) return JSON.stringify(v) ?? "null";
  const o = v as Record<string, unknown>;
  const keys = Object.keys(o).sort();
  return `{${keys.flatMap((k) => (o[k] === undefined ? [] : [`${JSON.stringify(k)}:${plain(o[k])}`])).join(",")}}`;
}

const KEYS = ["a", "b", "ab", "B", "_", "10", "9", "0", "ä", "__proto__", "toString", "z\n", ""];

/** Any value that a record could hold, and some that none should; `sorted` has its keys in order. */
function value(random: ReturnType<typeof seeded>, sorted: boolean, depth = 0): unknown {
  const pick = Math.floor(random.uniform() * (depth > 3 ? 6 : 9));
  if (pick < 6) return [null, undefined, random.uniform(), NaN, -0, "é\u2028\ud800"][pick];
  const length = Math.floor(4 * random.uniform());
  if (pick === 6) return Array.from({ length }, () => value(random, sorted, depth + 1));
  const keys = Array.from({ length: length + 1 }, () => KEYS[Math.floor(KEYS.length * random.uniform())] as string);
  if (sorted) keys.sort();
  const out: Record<string, unknown> = {};
  for (const k of keys)
    Object.defineProperty(out, k, {
      value: value(random, sorted, depth + 1),
      enumerable: true,
      configurable: true,
      writable: true,
    });
  return out;
}

test("equal values give equal text, in whatever order their keys came; seed 17", () => {
  const random = seeded(17);
  let ordered = 0;
  for (let k = 0; k < 4000; k++) {
    const v = value(random, k % 2 === 0);
    expect(stableJson(v)).toBe(plain(v));
    if (typeof v === "object" && v !== null && stableJson(v) === JSON.stringify(v)) ordered++;
  }
  // Both ways of writing were taken.
  expect(ordered).toBeGreaterThan(500);
});

test("keys that are numbers stand as text does, not as the platform orders them", () => {
  expect(stableJson({ "9": 1, "10": 2 })).toBe('{"10":2,"9":1}');
  expect(stableJson({ a: { "10": 1, "9": 2 }, b: [{ d: 1, c: undefined }] })).toBe(
    '{"a":{"10":1,"9":2},"b":[{"d":1}]}',
  );
});
