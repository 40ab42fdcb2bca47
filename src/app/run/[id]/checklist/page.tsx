"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../../screen";

const Screen = screenOf(() => import("@/features/checklist/checklist-page").then((m) => m.ChecklistPage));

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
