"use client";

import { screenOf } from "./screen";

const Screen = screenOf(() => import("@/features/notebook/notebook-page").then((m) => m.NotebookPage));

export default function Page() {
  return <Screen />;
}
