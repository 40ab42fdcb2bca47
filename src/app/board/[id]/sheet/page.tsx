"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../../screen";

const Screen = screenOf(() => import("@/features/sheet/sheet-page").then((m) => m.SheetPage));

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
