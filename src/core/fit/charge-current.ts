import { formatQuantity } from "../quantities";

export interface CurrentCheck {
  /** Charge current ÷ what the cell's capacity gives in an hour. */
  readonly rate: number;
  /** `refused`: beyond what the cell allows, or so far beyond the house rule that a slip is likelier than intent. */
  readonly verdict: "within" | "above the house rule" | "refused";
  readonly message: string;
  /** A that the house rule gives this cell. */
  readonly advised: number;
}

/**
 * Whether a charge current suits a cell. `current` A, `capacity` Ah, `limit` and `rule` as multiples of the capacity an
 * hour. Worked: 1 A into 0.3 Ah is 3.3 C; with a limit of 1 C it is refused, and a rule of 0.5 C advises 150 mA.
 */
export function checkChargeCurrent(current: number, capacity: number, limit: number, rule: number): CurrentCheck {
  const rate = current / capacity;
  const advised = Math.min(rule, limit) * capacity;
  const says = `${formatQuantity(current, "A", { digits: 3 })} into ${formatQuantity(capacity, "Ah", { digits: 3 })} is ${Number(rate.toPrecision(2))} C`;
  if (rate > limit * 1.02)
    return {
      rate,
      advised,
      verdict: "refused",
      message: `${says}; the cell allows ${limit} C. Do not charge it with this: set the charger to ${formatQuantity(advised, "A", { digits: 2 })} or less, or take a cell of at least ${formatQuantity(current / limit, "Ah", { digits: 2 })}.`,
    };
  if (rate > rule * 1.05)
    return {
      rate,
      advised,
      verdict: "above the house rule",
      message: `${says}, above the house rule of ${Number(rule.toPrecision(2))} C. The cell allows it; it gets warmer and ages faster. ${formatQuantity(advised, "A", { digits: 2 })} would follow the rule.`,
    };
  return {
    rate,
    advised,
    verdict: "within",
    message: `${says}: within the house rule of ${Number(rule.toPrecision(2))} C.`,
  };
}
