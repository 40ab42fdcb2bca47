import { parseQuantity } from "@/core/quantities";
import type { RigRecord } from "@/core/files/records";

/** Resistors as they are typed. Stored as a rig's `drawer`. */
export const resistorsText = (pieces: RigRecord["drawer"]): string =>
  pieces.map((r) => `${r.ohms}R ${r.watts}W`).join(", ");

/** Resistors at hand as text: `10R 5W, 4R7 10W ×2`. Returns the pieces or the reason. */
export function parseResistors(text: string): { pieces: RigRecord["drawer"] } | { error: string } {
  const pieces: { ohms: number; watts: number }[] = [];
  for (const part of text
    .split(/[,;\n]+/)
    .map((t) => t.trim())
    .filter(Boolean)) {
    const m = /^(\S+)\s+(\S+?)\s*(?:[x×*]\s*(\d+))?$/.exec(part);
    if (!m) return { error: `“${part}”: write a resistor as 10R 5W, several as 10R 5W ×3.` };
    const ohms = parseQuantity(m[1] ?? "", "Ω");
    const watts = parseQuantity(m[2] ?? "", "W");
    if (!ohms.ok) return { error: `“${part}”: ${ohms.error}` };
    if (!watts.ok) return { error: `“${part}”: ${watts.error}` };
    if (!(ohms.value.value > 0) || !(watts.value.value > 0))
      return { error: `“${part}”: enter resistance and rating above zero.` };
    const count = Math.min(20, Number(m[3] ?? "1"));
    for (let k = 0; k < count; k++) pieces.push({ ohms: ohms.value.value, watts: watts.value.value });
  }
  return pieces.length > 80 ? { error: "At most 80 resistors." } : { pieces };
}
