import { useEffect, useMemo } from "react";

/** What is typed between the key that opens a field and the moment in which the field takes it. */
export interface TypedAhead {
  /** From now on letters are held back from the page. */
  begin(): void;
  /** The field stands: what was typed so far, once, and whether Enter came after it; from now on keys are its own. */
  take(): { readonly text: string; readonly entered: boolean };
}

/** Longest wait for a field, ms: after that keys belong to the page again. */
const PATIENCE = 3000;

/** Holds letters and Enter back while a field is being opened: none of them acts on the page, and none is lost. */
export function useTypedAhead(): TypedAhead {
  const [held, ahead] = useMemo(() => {
    const held = { since: null as number | null, text: "", entered: false };
    const ahead: TypedAhead = {
      begin: () => Object.assign(held, { since: performance.now(), text: "", entered: false }),
      take: () => {
        const { text, entered } = held;
        Object.assign(held, { since: null, text: "", entered: false });
        return { text, entered };
      },
    };
    return [held, ahead] as const;
  }, []);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (
        held.since === null ||
        performance.now() - held.since > PATIENCE ||
        e.ctrlKey ||
        e.metaKey ||
        e.altKey ||
        (e.key.length !== 1 && e.key !== "Enter")
      )
        return;
      if (e.key === "Enter") held.entered = true;
      else held.text += e.key;
      e.preventDefault();
      e.stopImmediatePropagation();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [held]);
  return ahead;
}
