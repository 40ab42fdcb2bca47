"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/feed/feed-page").then((m) => m.FeedPage));

export default function Page() {
  return <Screen />;
}
