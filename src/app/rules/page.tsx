"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/rules/rules-page").then((m) => m.RulesPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
