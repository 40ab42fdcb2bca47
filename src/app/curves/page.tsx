"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/curves/curves-page").then((m) => m.CurvesPage));

export default function Page() {
  return <Screen />;
}
