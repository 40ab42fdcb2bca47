/** What the page that is open offers, read from the page itself: whatever can be pressed there can be found by name. */

const main = (): HTMLElement | null => document.getElementById("main");
const inSight = (e: HTMLElement): boolean => e.getClientRects().length > 0;

/** The name by which a control goes: what is written on it, without its key. */
function nameOf(e: HTMLElement): string {
  const label = e.getAttribute("aria-label");
  if (label) return label;
  const copy = e.cloneNode(true) as HTMLElement;
  for (const hidden of copy.querySelectorAll("kbd, svg, [aria-hidden=true]")) hidden.remove();
  return (copy.textContent ?? "").replace(/\s+/g, " ").trim();
}

export interface PageAct {
  readonly name: string;
  act(): void;
}

/** Names too short to be found by, or that only open and close a part of the page. */
const tells = (e: HTMLElement, name: string): boolean =>
  name.length > 3 && name.length < 60 && !e.hasAttribute("aria-expanded") && e.getAttribute("role") !== "tab";

/** The buttons of the page, each name once. */
export function pageActs(): PageAct[] {
  const out = new Map<string, PageAct>();
  for (const e of main()?.querySelectorAll<HTMLElement>("button:not(:disabled), a[role=button]") ?? []) {
    const name = nameOf(e);
    if (!inSight(e) || !tells(e, name) || out.has(name)) continue;
    out.set(name, {
      name,
      act: () => {
        e.focus();
        e.click();
      },
    });
  }
  return [...out.values()];
}

/** The single keys that controls of the page say they have, and what they do. */
export function keysOffered(): (readonly [key: string, does: string])[] {
  const out = new Map<string, string>();
  for (const e of main()?.querySelectorAll<HTMLElement>("[aria-keyshortcuts]") ?? [])
    if (inSight(e)) out.set(e.getAttribute("aria-keyshortcuts") ?? "", nameOf(e));
  return [...out].filter(([key, does]) => key && does);
}
