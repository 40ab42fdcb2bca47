import { useCallback, useEffect, useRef, useState } from "react";

/** How far beyond the window a row counts as near: it is drawn, and its board judged, before it is scrolled to. */
const NEAR = "300px";

/** Watches a row, and says once it comes near; the answer stops it. */
export type Sight = (e: HTMLElement, near: () => void) => () => void;

/** Tells which boards are in sight, or near it. */
export function useSight(see: ((ids: readonly string[]) => void) | null): Sight {
  const observer = useRef<IntersectionObserver | null>(null);
  const [rows] = useState(() => new Map<Element, () => void>());
  useEffect(() => {
    if (!see) return;
    const near = new Set<string>();
    const o = new IntersectionObserver(
      (entries) => {
        for (const e of entries) {
          const id = (e.target as HTMLElement).dataset.board ?? "";
          if (e.isIntersecting) {
            near.add(id);
            rows.get(e.target)?.();
          } else near.delete(id);
        }
        see([...near]);
      },
      { rootMargin: NEAR },
    );
    observer.current = o;
    for (const e of rows.keys()) o.observe(e);
    return () => o.disconnect();
  }, [see, rows]);
  return useCallback(
    (e, near) => {
      rows.set(e, near);
      observer.current?.observe(e);
      return () => {
        rows.delete(e);
        observer.current?.unobserve(e);
      };
    },
    [rows],
  );
}
