"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/drawer/drawer-page").then((m) => m.DrawerPage));

export default function Page() {
  return <Screen />;
}
