"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/import/import-page").then((m) => m.ImportPage), { ssr: false });

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} boardId={id} />;
}
