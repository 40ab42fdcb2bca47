"use client";

import { useEffectEvent, useLayoutEffect } from "react";

const TEXT_INPUTS = new Set(["text", "search", "url", "email", "date", "number"]);

/** Whether a key would go into free text there. Fields marked `data-number` take no letters but those of numbers. */
export function isTyping(target: EventTarget | null): "text" | "number" | null {
  if (!(target instanceof HTMLElement)) return null;
  if (target instanceof HTMLInputElement) {
    if (target.dataset.number !== undefined) return "number";
    return TEXT_INPUTS.has(target.type) ? "text" : null;
  }
  return target instanceof HTMLTextAreaElement || target instanceof HTMLSelectElement || target.isContentEditable
    ? "text"
    : null;
}

/**
 * Single keys of a screen. They work everywhere but in free text and open dialogs; letters inside number fields too, since
 * none of those used belongs to a number or a unit.
 */
export function useKeys(keys: Readonly<Record<string, () => void>>, enabled = true): void {
  const onKey = useEffectEvent((e: KeyboardEvent) => {
    if (e.ctrlKey || e.metaKey || e.altKey || e.defaultPrevented || e.repeat) return;
    const typing = isTyping(e.target);
    if (typing === "text" || (typing === "number" && !/^[a-z]$/i.test(e.key))) return;
    if (document.querySelector('[role="dialog"][data-state="open"]')) return;
    const act = keys[e.key.length === 1 ? e.key.toLowerCase() : e.key];
    if (!act) return;
    e.preventDefault();
    act();
  });
  // With what it draws, not a moment later: whoever sees a key offered may press it.
  useLayoutEffect(() => {
    if (!enabled) return;
    const listener = (e: KeyboardEvent) => onKey(e);
    window.addEventListener("keydown", listener);
    return () => window.removeEventListener("keydown", listener);
  }, [enabled]);
}
