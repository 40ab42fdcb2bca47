"use client";

import { screenOf } from "./screen";

/** The result of a run; other pages fetch its code ahead. */
export const ReviewScreen = screenOf<{ readonly id: string }>(
  () => import("@/features/review/review-page").then((m) => m.ReviewPage),
  "asked",
);
