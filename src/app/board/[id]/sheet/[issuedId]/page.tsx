"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/sheet/issued-page").then((m) => m.IssuedPage), { ssr: false });

export default function Page() {
  const { id, issuedId } = useParams<{ id: string; issuedId: string }>();
  return <Screen key={issuedId} boardId={id} id={issuedId} />;
}
