"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/station/station-page").then((m) => m.StationPage));

export default function Page() {
  return <Screen />;
}
