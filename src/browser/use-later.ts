import { useEffect, useState } from "react";

/** False until a page has had `ms` milliseconds to answer: for what nobody waits for. */
export function useLater(ms: number): boolean {
  const [later, setLater] = useState(false);
  useEffect(() => {
    const id = setTimeout(() => setLater(true), ms);
    return () => clearTimeout(id);
  }, [ms]);
  return later;
}

/** What somebody at work does to a page. */
const TOUCHES = ["keydown", "pointerdown", "wheel"] as const;

/** False until a page has been left alone for `ms` milliseconds: for what would be in the way of whoever works on it. */
export function useLeftAlone(ms: number): boolean {
  const [alone, setAlone] = useState(false);
  useEffect(() => {
    let id: ReturnType<typeof setTimeout>;
    const stop = () => TOUCHES.forEach((t) => window.removeEventListener(t, again, true));
    const again = () => {
      clearTimeout(id);
      id = setTimeout(() => {
        stop();
        setAlone(true);
      }, ms);
    };
    TOUCHES.forEach((t) => window.addEventListener(t, again, { capture: true, passive: true }));
    again();
    return () => {
      stop();
      clearTimeout(id);
    };
  }, [ms]);
  return alone;
}
