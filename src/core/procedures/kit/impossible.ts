/** Readings that can hardly be right, found before they are kept: a slipped decimal point, a wrong sign, more than a meter shows. */
import { largestShown } from "../../instruments";
import { formatQuantity, numeric } from "../../quantities";
import { roleLabel, roleUnit, type RoleReading, type Role } from "../../measurement";
import type { Remark } from "../contract";

type Cells = Readonly<Partial<Record<Role, RoleReading>>>;
type Expected = Readonly<Partial<Record<Role, number>>>;

/** V below zero that a meter at rest may show. */
const ZERO_NOISE = 0.05;
/** Share of what is expected below which a reading counts as low. */
const LOW = 0.5;

const TIMES = ["", "ten", "a hundred", "a thousand", "ten thousand", "a hundred thousand", "a million"];
const PARTS = ["", "a tenth", "a hundredth", "a thousandth", "a ten-thousandth", "a hundred-thousandth", "a millionth"];

const value = (cells: Cells, role: Role): number | null => cells[role]?.value ?? null;

/**
 * How many decimal places a reading seems to have slipped: 1 for 50.00 V where 5.0 V is expected, −3 for milliamperes
 * taken for amperes; null where it has not. A thousand either way is a slipped milli however rough the expectation is;
 * other powers of ten have to lie close to what is expected, voltages too high less so: nothing else reads ten times
 * a supply. The share left over is in decades.
 */
export function slipOf(
  role: Role,
  read: number,
  expected: number,
): { readonly places: number; readonly off: number } | null {
  if (!(expected > 0) || !(read > 0) || !Number.isFinite(read)) return null;
  const decades = Math.log10(read / expected);
  const places = Math.round(decades);
  if (places === 0 || Math.abs(places) >= TIMES.length) return null;
  const off = Math.abs(decades - places);
  const voltage = roleUnit(role) === "V";
  const room = Math.abs(places) === 3 ? 0.45 : places > 0 ? (voltage ? 0.2 : 0.1) : voltage ? 0.03 : 0.1;
  return off <= room ? { places, off } : null;
}

/** A reading with its decimal point moved back. */
const meantFor = (read: number, places: number): number => Number((read / 10 ** places).toPrecision(12));

/**
 * What to ask about readings before they are kept, the most likely slip first: `meant` is what was most likely read
 * (SI). `stop` marks what can't be kept as it is. Readings that are low together are a collapse, not a slip.
 */
export function impossibleReadings(cells: Cells, expected: Expected): Remark[] {
  const roles = (Object.keys(cells) as Role[]).filter((role) => typeof value(cells, role) === "number");
  const low = roles.filter((role) => numeric(value(cells, role)) < LOW * (expected[role] ?? 0));
  const remarks: { readonly remark: Remark; readonly off: number }[] = [];
  for (const role of roles) {
    const read = numeric(value(cells, role));
    const unit = roleUnit(role);
    const say = `${roleLabel(role)} ${formatQuantity(read, unit, { digits: 4 })}`;
    const e = expected[role];
    const slip = e === undefined ? null : slipOf(role, read, e);
    if (slip && (slip.places > 0 || low.length === 1)) {
      const meant = meantFor(read, slip.places);
      const size = slip.places > 0 ? `${TIMES[slip.places]} times` : `${PARTS[-slip.places]} of`;
      const message = `${say} is ${size} the expected ${formatQuantity(numeric(e), unit, { digits: 2 })}: meant ${formatQuantity(meant, unit, { digits: 4 })}?`;
      remarks.push({
        remark: {
          code: "unit-slip",
          severity: Math.abs(read) > largestShown(unit) ? "stop" : "doubt",
          message,
          role,
          ask: true,
          meant,
        },
        off: slip.off,
      });
    } else if (Math.abs(read) > largestShown(unit)) {
      remarks.push({
        remark: {
          code: "beyond-meters",
          severity: "stop",
          message: `${say} is more than a bench meter shows (${formatQuantity(largestShown(unit), unit)}): correct it.`,
          role,
          ask: true,
        },
        off: 1,
      });
    } else if (unit === "V" && read < -ZERO_NOISE) {
      remarks.push({
        remark: {
          code: "negative",
          severity: "doubt",
          message: `${say} is negative: a sign too many, or the meter's leads swapped?`,
          role,
          ask: true,
          meant: -read,
        },
        off: 1,
      });
    }
  }
  return remarks.sort((a, b) => a.off - b.off).map((f) => f.remark);
}

/** Whether a reading typed into a log can stand beside the one before it; only what changes slowly is asked about. */
export function impossibleInLog(values: Readonly<Partial<Record<Role, number>>>, before: Expected | null): Remark[] {
  const cells: Cells = Object.fromEntries(
    Object.entries(values).map(([role, v]) => [role, { value: v ?? null, status: "ok" as const }]),
  );
  const slow = Object.fromEntries(
    Object.entries(before ?? {}).filter(([role]) => ["V", "°C"].includes(roleUnit(role as Role))),
  );
  return impossibleReadings(cells, slow).map((r) =>
    r.code === "unit-slip" ? { ...r, message: r.message.replace("the expected", "the last reading,") } : r,
  );
}
