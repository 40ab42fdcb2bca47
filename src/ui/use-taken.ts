import { useState } from "react";
import { sameValue } from "@/core/files/three-way";

/** Whether every number of a form's values can be taken: none is empty (null) or nonsense (NaN), however deep it stands. */
export function isTaken(value: unknown): boolean {
  if (value === null) return false;
  if (typeof value === "number") return !Number.isNaN(value);
  return typeof value === "object" ? Object.values(value).every(isTaken) : true;
}

/** A form's values as they last could be taken as a whole (the same object until one of them changes), and whether they can now. */
export function useTaken<T>(values: T, whole = isTaken(values)): { readonly values: T; readonly whole: boolean } {
  const [last, setLast] = useState(values);
  if (whole && !sameValue(values, last)) setLast(values);
  return { values: last, whole };
}
