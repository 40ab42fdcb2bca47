import { useEffect, useState } from "react";
import { pageActs, type PageAct } from "./page-acts";

/** What the open page offers, also while it is still being drawn. */
export function usePageActs(): readonly PageAct[] {
  const [acts, setActs] = useState(pageActs);
  useEffect(() => {
    const main = document.getElementById("main");
    if (!main) return;
    let frame = 0;
    const observer = new MutationObserver(() => {
      cancelAnimationFrame(frame);
      frame = requestAnimationFrame(() => setActs(pageActs()));
    });
    observer.observe(main, { childList: true, subtree: true });
    return () => {
      cancelAnimationFrame(frame);
      observer.disconnect();
    };
  }, []);
  return acts;
}
