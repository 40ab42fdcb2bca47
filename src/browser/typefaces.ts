/** ms that a page waits for its typefaces before it is drawn without them. */
const PATIENCE = 1000;
let coming: Promise<void> | null = null;

/**
 * Resolves once the page's typefaces are there, or after a second without them. What is drawn in a stand-in's widths moves when they
 * come, and a button that moves between the press and the release of a pointer is not clicked.
 */
export function typefaces(): Promise<void> {
  coming ??= (async () => {
    const style = getComputedStyle(document.documentElement);
    const faces = ["--font-sans", "--font-mono"].map((name) =>
      document.fonts.load(`1em ${style.getPropertyValue(name)}`),
    );
    await Promise.race([Promise.allSettled(faces), new Promise((r) => setTimeout(r, PATIENCE))]);
  })();
  return coming;
}
