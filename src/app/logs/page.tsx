"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/log/logs-page").then((m) => m.LogsPage));

export default function Page() {
  return <Screen />;
}
