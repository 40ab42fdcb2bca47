/** Ah above which a capacity was most likely meant in mAh: no cell of this kind holds as much. */
const MOST_CAPACITY = 200;

/** What stands against a capacity in Ah; null where nothing does. `2600` is asked about: it was most likely meant in mAh. */
export const capacityRefusal = (v: number): string | null =>
  !(v > 0)
    ? "Enter a value above zero."
    : v > MOST_CAPACITY
      ? `${v} Ah? For ${v} mAh type ${v}m, or ${v / 1000}.`
      : null;
