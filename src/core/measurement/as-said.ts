/** Whether what was seen is among what was said to come of it: `red or green`, whatever the case. */
export const asSaid = (said: string, seen: string): boolean =>
  said
    .toLowerCase()
    .split(/\s+or\s+/)
    .includes(seen.trim().toLowerCase());
