"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/compare/compare-page").then((m) => m.ComparePage));

export default function Page() {
  return <Screen />;
}
