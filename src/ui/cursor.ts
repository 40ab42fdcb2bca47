"use client";

import { useCallback, useSyncExternalStore } from "react";
import { ELEMENTS } from "@/core/quantities";

const { nth } = ELEMENTS;

/*
 * Where the pointer or the arrow keys point on the charts of a page. Charts with the same horizontal axis are linked: what is looked at on
 * one is shown on all. Outside React, so that moving it redraws nothing but the crosshairs.
 */
const places = new Map<string, number>();
const listeners = new Set<() => void>();

/** The value on the axis `scope` that is looked at, null where none is, and what sets it. */
export function useCursor(scope: string): readonly [at: number | null, look: (at: number | null) => void] {
  const at = useSyncExternalStore(
    (listen) => {
      listeners.add(listen);
      return () => listeners.delete(listen);
    },
    () => places.get(scope) ?? null,
    () => null,
  );
  const look = useCallback(
    (next: number | null) => {
      if (next === null) places.delete(scope);
      else places.set(scope, next);
      for (const l of listeners) l();
    },
    [scope],
  );
  return [at, look];
}

/** The index of the value nearest to `x` in a rising list; −1 where it is empty. */
export function nearest(xs: ArrayLike<number>, x: number): number {
  let [low, high] = [0, xs.length - 1];
  if (high < 0) return -1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (nth(xs, middle) <= x) low = middle;
    else high = middle;
  }
  return Math.abs(nth(xs, high) - x) < Math.abs(nth(xs, low) - x) ? high : low;
}
