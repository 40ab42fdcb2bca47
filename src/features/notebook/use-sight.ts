import { useCallback, useEffect, useRef, useState } from "react";

/** Tells which boards are in sight, or near it. */
export function useSight(see: ((ids: readonly string[]) => void) | null): (e: HTMLElement | null) => void {
  const observer = useRef<IntersectionObserver | null>(null);
  const [waiting] = useState(() => new Set<HTMLElement>());
  useEffect(() => {
    if (!see) return;
    const near = new Set<string>();
    const o = new IntersectionObserver((entries) => {
      for (const e of entries) {
        const id = (e.target as HTMLElement).dataset.board ?? "";
        if (e.isIntersecting) near.add(id);
        else near.delete(id);
      }
      see([...near]);
    });
    observer.current = o;
    for (const e of waiting) o.observe(e);
    return () => o.disconnect();
  }, [see, waiting]);
  return useCallback(
    (e: HTMLElement | null) => {
      if (!e) return;
      waiting.add(e);
      observer.current?.observe(e);
      return () => {
        waiting.delete(e);
        observer.current?.unobserve(e);
      };
    },
    [waiting],
  );
}
