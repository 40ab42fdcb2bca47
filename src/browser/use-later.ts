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
