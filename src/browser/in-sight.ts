import { useEffect, useState, type RefObject } from "react";

/** Whether some of an element is within the window. */
export function useInSight(place: RefObject<HTMLElement | null>): boolean {
  const [inSight, setInSight] = useState(false);
  useEffect(() => {
    const e = place.current;
    if (!e) return;
    const watch = new IntersectionObserver((entries) => setInSight(entries.at(-1)?.isIntersecting ?? false));
    watch.observe(e);
    return () => watch.disconnect();
  }, [place]);
  return inSight;
}
