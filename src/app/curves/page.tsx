"use client";

import dynamic from "next/dynamic";

const load = () => import("@/features/curves/curves-page").then((m) => m.CurvesPage);
// Fetched while the notebook is being opened.
if (typeof window !== "undefined") void load().catch(() => undefined);
const Screen = dynamic(load, { ssr: false });

export default function Page() {
  return <Screen />;
}
