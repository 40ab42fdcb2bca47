"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/notebook/notebook-page").then((m) => m.NotebookPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
