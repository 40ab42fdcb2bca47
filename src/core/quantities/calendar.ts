const formats = new Map<string, Intl.DateTimeFormat>();

/** What writes dates of a time zone; of UTC where the zone is not known here. */
function formatOf(zone: string): Intl.DateTimeFormat {
  const cached = formats.get(zone);
  if (cached) return cached;
  const made = (timeZone: string): Intl.DateTimeFormat =>
    new Intl.DateTimeFormat("en-GB", { timeZone, year: "numeric", month: "2-digit", day: "2-digit" });
  let format: Intl.DateTimeFormat;
  try {
    format = made(zone);
  } catch {
    format = made("UTC");
  }
  formats.set(zone, format);
  return format;
}

/**
 * The day of the calendar, YYYY-MM-DD, on which a moment (ISO 8601, or ms since 1970) fell in a time zone (IANA name). A zone that is not known
 * here counts as UTC. Throws a RangeError where the moment is none.
 */
export function calendarDay(moment: string | number, zone: string): string {
  const parts = formatOf(zone).formatToParts(new Date(moment));
  const part = (type: string): string => parts.find((p) => p.type === type)?.value ?? "";
  return `${part("year").padStart(4, "0")}-${part("month")}-${part("day")}`;
}
