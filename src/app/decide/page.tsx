"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/decide/decide-page").then((m) => m.DecidePage), { ssr: false });

export default function Page() {
  return <Screen />;
}
