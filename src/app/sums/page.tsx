"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/sums/sums-page").then((m) => m.SumsPage));

export default function Page() {
  return <Screen />;
}
