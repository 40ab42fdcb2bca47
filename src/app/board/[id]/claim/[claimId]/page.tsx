"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../../../screen";

const Screen = screenOf(() => import("@/features/verdict/verdict-page").then((m) => m.VerdictPage));

export default function Page() {
  const { id, claimId } = useParams<{ id: string; claimId: string }>();
  return <Screen key={claimId} boardId={id} claimId={claimId} />;
}
