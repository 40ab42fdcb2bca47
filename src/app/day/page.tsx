"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/day/day-page").then((m) => m.DayPage));

export default function Page() {
  return <Screen />;
}
