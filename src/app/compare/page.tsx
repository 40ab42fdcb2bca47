"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/compare/compare-page").then((m) => m.ComparePage), { ssr: false });

export default function Page() {
  return <Screen />;
}
