"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/use/use-page").then((m) => m.UsePage));

export default function Page() {
  return <Screen />;
}
