"use client";

import { useState } from "react";

/**
 * What a form stands on: the value as it is stored, but while something is typed in the form the one that it was begun with. What is saved
 * elsewhere meanwhile neither empties the fields nor is undone by them.
 */
export function useHeld<T extends { readonly id: string } | null>(
  value: T,
): { readonly held: T; onDirty(dirty: boolean): void } {
  const [held, setHeld] = useState(value);
  const [dirty, setDirty] = useState(false);
  if (held !== value && (!dirty || held?.id !== value?.id)) setHeld(value);
  return { held, onDirty: setDirty };
}
