"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/sums/sums-page").then((m) => m.SumsPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
