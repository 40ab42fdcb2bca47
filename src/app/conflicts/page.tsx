"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/conflicts/conflicts-page").then((m) => m.ConflictsPage));

export default function Page() {
  return <Screen />;
}
