"use client";

import dynamic from "next/dynamic";

const load = () => import("@/features/decide/decide-page").then((m) => m.DecidePage);
// Fetched while the notebook is being opened.
if (typeof window !== "undefined") void load().catch(() => undefined);
const Screen = dynamic(load, { ssr: false });

export default function Page() {
  return <Screen />;
}
