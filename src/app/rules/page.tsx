"use client";

import { screenOf } from "../screen";

const Screen = screenOf(() => import("@/features/rules/rules-page").then((m) => m.RulesPage));

export default function Page() {
  return <Screen />;
}
