"use client";

import { useEffect, useState, type ComponentType } from "react";

export interface Screen<P> {
  (props: P): React.ReactNode;
  /** Fetches the screen's code before anybody goes there. */
  ahead(): void;
}

/**
 * A route's screen, its code loaded when first needed and drawn at once where it is already here. A lazy component would be
 * suspended even then, and whatever follows a fallback is held back by 300 ms.
 */
export function screenOf<P extends object>(load: () => Promise<ComponentType<P>>): Screen<P> {
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
  return Object.assign(Shown, { ahead: () => void fetched().catch(() => undefined) });
}
