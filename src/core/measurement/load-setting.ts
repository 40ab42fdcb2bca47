import type { LoadSetting } from "./readings";

/**
 * The current that a load was set to, in A, at a nominal output in V: the set current, power ÷ nominal, or nominal ÷
 * resistance (0 for an open output). Null where it takes a nominal output and none is known.
 */
export function currentOfSetting(load: LoadSetting, nominal: number | undefined): number | null {
  if (load.mode === "current") return load.value;
  if (nominal === undefined || !(nominal > 0)) return null;
  if (load.mode === "power") return load.value / nominal;
  return load.value > 0 && Number.isFinite(load.value) ? nominal / load.value : 0;
}
