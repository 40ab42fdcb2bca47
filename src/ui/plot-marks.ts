export const TONES = ["var(--tone-0)", "var(--tone-1)", "var(--tone-2)", "var(--tone-3)"];
/** Colours repeat after four lines, dashes after eight, so that eight lines are told apart. */
export const DASHES = ["", "7 3", "2 3", "9 3 2 3", "14 3", "4 6", "1 6", "12 3 2 3 2 3"];

/** Point shapes differ by series, so that colour is not needed to tell them apart. */
export function shape(tone: number, x: number, y: number, r: number): string {
  switch (tone % 4) {
    case 0:
      return `M${x - r} ${y}a${r} ${r} 0 1 0 ${2 * r} 0a${r} ${r} 0 1 0 ${-2 * r} 0`;
    case 1:
      return `M${x - r} ${y - r}h${2 * r}v${2 * r}h${-2 * r}z`;
    case 2:
      return `M${x} ${y - r * 1.3}l${r * 1.3} ${r * 1.3}l${-r * 1.3} ${r * 1.3}l${-r * 1.3} ${-r * 1.3}z`;
    default:
      return `M${x} ${y - r * 1.2}l${r * 1.2} ${r * 2}h${-r * 2.4}z`;
  }
}
