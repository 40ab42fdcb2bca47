import { useEffect, useMemo } from "react";

/** What is typed between the key that opens a field and the moment in which the field takes it. */
export interface TypedAhead {
  /** From now on letters are held back from the page. */
  begin(): void;
  /** The field stands: what was typed so far, once; from now on letters are its own. */
  take(): string;
}

/** Longest wait for a field, ms: after that letters belong to the page again. */
const PATIENCE = 3000;

/** Holds letters back while a field is being opened: none of them acts as a key of the page, and none is lost. */
export function useTypedAhead(): TypedAhead {
  const [held, ahead] = useMemo(() => {
    const held = { since: null as number | null, text: "" };
    const ahead: TypedAhead = {
      begin: () => Object.assign(held, { since: performance.now(), text: "" }),
      take: () => {
        const { text } = held;
        Object.assign(held, { since: null, text: "" });
        return text;
      },
    };
    return [held, ahead] as const;
  }, []);
  useEffect(() => {
    const onKey = (e: KeyboardEvent) => {
      if (held.since === null || performance.now() - held.since > PATIENCE || e.ctrlKey || e.metaKey || e.altKey || e.key.length !== 1) return;
      held.text += e.key;
      e.preventDefault();
      e.stopImmediatePropagation();
    };
    window.addEventListener("keydown", onKey, { capture: true });
    return () => window.removeEventListener("keydown", onKey, { capture: true });
  }, [held]);
  return ahead;
}
