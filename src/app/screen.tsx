"use client";

import { useEffect, useState, type ComponentType } from "react";

export interface Screen<P> {
  (props: P): React.ReactNode;
  /** Fetches the screen's code before anybody goes there. */
  ahead(): void;
}

/**
 * A route's screen, drawn in the browser only, as the data is. Its code is fetched while the notebook is still being opened (or, told
 * `when: "asked"`, once somebody calls `ahead` or goes there) and drawn at once where it is already here. A lazy component would be
 * suspended even then, and React holds back by 300 ms whatever follows a fallback.
 */
export function screenOf<P extends object>(
  load: () => Promise<ComponentType<P>>,
  when: "now" | "asked" = "now",
): Screen<P> {
  let ready: ComponentType<P> | null = null;
  const fetched = async (): Promise<ComponentType<P>> => (ready ??= await load());
  function Shown(props: P) {
    const [Component, setComponent] = useState<ComponentType<P> | null>(() => ready);
    useEffect(() => {
      if (Component) return;
      let gone = false;
      fetched().then(
        (found) => gone || setComponent(() => found),
        (e: unknown) =>
          gone ||
          // Thrown where the page's error boundary sees it.
          setComponent(() => {
            throw e;
          }),
      );
      return () => {
        gone = true;
      };
    }, [Component]);
    return Component ? <Component {...props} /> : null;
  }
  const ahead = () => {
    // Not on the server, which draws no screen.
    if (typeof window !== "undefined") void fetched().catch(() => undefined);
  };
  if (when === "now") ahead();
  return Object.assign(Shown, { ahead });
}
