"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/sheet/sheet-page").then((m) => m.SheetPage), { ssr: false });

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
