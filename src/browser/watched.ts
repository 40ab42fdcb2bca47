import { useState, useSyncExternalStore } from "react";

/** A value that changes often: only what shows it is drawn anew, not the page that holds it. */
export interface Watched<T> {
  get(): T;
  set(value: T): void;
  /** Told of every change until what it gives is called. */
  watch(told: () => void): () => void;
}

function watched<T>(first: T): Watched<T> {
  let value = first;
  const watchers = new Set<() => void>();
  return {
    get: () => value,
    set: (next) => {
      if (Object.is(next, value)) return;
      value = next;
      for (const w of watchers) w();
    },
    watch: (told) => {
      watchers.add(told);
      return () => void watchers.delete(told);
    },
  };
}

/** One that lasts as long as the component that makes it. */
export const useNewWatched = <T>(first: T): Watched<T> => useState(() => watched(first))[0];

/** Its value now; the component is drawn anew when it changes. */
export const useWatched = <T>(w: Watched<T>): T => useSyncExternalStore(w.watch, w.get, w.get);
