"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/decide/decide-page").then((m) => m.DecidePage));

export default function Page() {
  return <Screen />;
}
