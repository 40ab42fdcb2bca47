"use client";

import dynamic from "next/dynamic";

const Screen = dynamic(() => import("@/features/drawer/drawer-page").then((m) => m.DrawerPage), { ssr: false });

export default function Page() {
  return <Screen />;
}
