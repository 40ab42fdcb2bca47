"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/curves/curves-page").then((m) => m.CurvesPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
