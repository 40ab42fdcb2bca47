"use client";

import { screenOf } from "../../screen";

const Screen = screenOf(() => import("@/features/packs/packs-page").then((m) => m.PacksPage));

export default function Page() {
  return <Screen />;
}
