"use client";

import { screenOf } from "../../screen";

const Screen = screenOf(() => import("@/features/drawer/labels-page").then((m) => m.LabelsPage));

export default function Page() {
  return <Screen />;
}
