import { capital, formatDuration, formatQuantity, numeric } from "../../quantities";
import type { Finding } from "../../measurement";

/** What a charge came to: current, full voltage, time, charge; each only where the log holds it. */
export function chargeAnswer(findings: readonly Finding[]): string | null {
  const of = (name: string) => findings.find((f) => f.characteristic === name && typeof f.value === "number");
  const rounded = (name: string): string => {
    const f = of(name);
    return f ? formatQuantity(numeric(f.value), f.unit, { digits: f.unit === "V" ? 4 : 3 }) : "";
  };
  const [amps, volts, time] = [rounded("charge.cc-current"), rounded("charge.cv-voltage"), of("charge.total-time")];
  if (!amps && !volts) return null;
  const whole = rounded("charge.capacity");
  const parts = [
    amps ? `charges at ${amps}` : "",
    volts
      ? time
        ? `full at ${volts} after ${formatDuration(numeric(time.value))}`
        : `held at ${volts}`
      : time
        ? `done after ${formatDuration(numeric(time.value))}`
        : "",
    whole ? `${whole} delivered` : of("charge.partial-capacity") ? `${rounded("charge.partial-capacity")} so far` : "",
  ].filter(Boolean);
  return `${capital(parts.join(", "))}.`;
}
