/** What is said to and by the worker of a live log. */
import type { RunSetup, LogValues } from "@/core/measurement";
import type { LiveNews } from "./live-log";

export type { LiveNews, LiveStatus } from "./live-log";

export type ToLiveLog =
  | {
      readonly say: "open";
      readonly runId: string;
      readonly procedure: string;
      readonly setup: RunSetup;
      readonly simulated: {
        readonly charger: string;
        readonly seed: number;
        /** What was done to it before, oldest first, s. */ readonly disturbances: readonly {
          readonly what: string;
          readonly at: number;
        }[];
      } | null;
      readonly pace: number;
      /** Digits of an uncertainty in what it says. */ readonly digits: 1 | 2;
    }
  | { readonly say: "pace"; readonly factor: number }
  | { readonly say: "row"; readonly values: LogValues }
  | { readonly say: "safe-again" }
  /** Does something to the simulated bench. */
  | { readonly say: "disturb"; readonly what: string }
  /** Asks for what is not on disk yet, as a table; answered with `held`. */
  | { readonly say: "held" }
  /** Writes everything and gives the log up; answered with `closed`. */
  | { readonly say: "close" };

export type FromLiveLog =
  | LiveNews
  | { readonly kind: "held"; readonly csv: string }
  | {
      readonly kind: "closed";
      /** Whether everything is on disk; where not, the log goes on. */ readonly kept: boolean;
    }
  | { readonly kind: "failed"; readonly message: string };

/** The channel on which other tabs look on. */
export const liveChannel = (runId: string): string => `nimbus-log-${runId}`;
/** The lock that the worker holds which writes a run's log. */
export const writerLock = (runId: string): string => `nimbus-log-writer-${runId}`;
