"use client";

import { useCallback, useState } from "react";

/** The width of an element in px as it is now, and the ref to give it. `first` holds until it is measured. */
export function useWidth(
  first: number,
): readonly [ref: (el: HTMLElement | null) => (() => void) | undefined, width: number] {
  const [width, setWidth] = useState(first);
  const ref = useCallback((el: HTMLElement | null) => {
    if (!el) return;
    const look = () => setWidth((was) => (Math.abs(was - el.clientWidth) > 1 ? el.clientWidth : was));
    look();
    const watch = new ResizeObserver(look);
    watch.observe(el);
    return () => watch.disconnect();
  }, []);
  return [ref, width];
}
