"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/instruments/instruments-page").then((m) => m.InstrumentsPage));

export default function Page() {
  return <Screen />;
}
