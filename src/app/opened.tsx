"use client";

import dynamic from "next/dynamic";
import type { OpenedView } from "@/browser/context";

/** Logs that were dropped or chosen, put together from what reads files and what shows results; fetched when the first one is opened. */
export const Opened = dynamic(
  () =>
    Promise.all([import("@/features/import/opened-logs"), import("@/features/review/unsaved-result")]).then(
      ([{ OpenedLogs }, { UnsavedResult }]) => {
        const Composed = (props: OpenedView) => <OpenedLogs {...props} Result={UnsavedResult} />;
        return Composed;
      },
    ),
  { ssr: false },
);
