"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../../../screen";

const Screen = screenOf(() => import("@/features/sheet/issued-page").then((m) => m.IssuedPage));

export default function Page() {
  const { id, issuedId } = useParams<{ id: string; issuedId: string }>();
  return <Screen key={issuedId} boardId={id} id={issuedId} />;
}
