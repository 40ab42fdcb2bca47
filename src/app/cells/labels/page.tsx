"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/drawer/labels-page").then((m) => m.LabelsPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
