"use client";

import { createContext, useContext } from "react";

/** The number of a point in the table of its run, by its id; nothing for what stands in no table. */
const Numbers = createContext<ReadonlyMap<string, number>>(new Map());
export const PointNumbers = Numbers.Provider;

/** What a reading behind a result is called: as the table numbers it, or by its place in a list. */
export function usePointNames(): (id: string, place: number) => string {
  const numbers = useContext(Numbers);
  return (id, place) => (numbers.has(id) ? `point ${numbers.get(id)}` : `reading ${place + 1}`);
}

export const numbersOfPoints = (points: readonly { readonly id: string }[]): ReadonlyMap<string, number> =>
  new Map(points.map((p, i) => [p.id, i + 1]));
