"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/checklist/checklist-page").then((m) => m.ChecklistPage), { ssr: false });

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
