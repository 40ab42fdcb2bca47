/** What is said to and by the worker of a live log. */
import type { RunSetup } from "@/core/procedures";
import type { LogRow } from "@/core/procedures/shape";
import type { LiveNews } from "./live-log";

export type { LiveNews, LiveStatus } from "./live-log";

export type ToLiveLog =
  | { readonly say: "open"; readonly runId: string; readonly procedure: string; readonly setup: RunSetup; readonly simulated: { readonly charger: string; readonly seed: number } | null; readonly pace: number }
  | { readonly say: "pace"; readonly factor: number }
  | { readonly say: "row"; readonly values: LogRow }
  | { readonly say: "safe-again" }
  /** Writes everything; answered with `closed`. */
  | { readonly say: "close" };

export type FromLiveLog = LiveNews | { readonly kind: "closed" } | { readonly kind: "failed"; readonly message: string };

/** The channel on which other tabs look on. */
export const liveChannel = (runId: string): string => `nimbus-log-${runId}`;
