import { formatISO } from "date-fns";

/** The time zone of this machine, as its IANA name. */
export const localZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || "UTC";

/** The day, YYYY-MM-DD, on which a moment (ISO 8601, or ms since 1970) falls in this machine's time zone. */
export const localDay = (moment: string | number): string => formatISO(new Date(moment), { representation: "date" });

/** Today's date, YYYY-MM-DD, in this machine's time zone. */
export const todaysDate = (): string => localDay(Date.now());
