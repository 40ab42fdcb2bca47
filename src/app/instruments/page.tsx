"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/instruments/instruments-page").then((m) => m.InstrumentsPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
