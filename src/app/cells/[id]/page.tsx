"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/drawer/cell-page").then((m) => m.CellPage), { ssr: false });

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
