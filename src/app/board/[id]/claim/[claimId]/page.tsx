"use client";

import dynamic from "next/dynamic";
import { useParams } from "next/navigation";

const Screen = dynamic(() => import("@/features/verdict/verdict-page").then((m) => m.VerdictPage), { ssr: false });

export default function Page() {
  const { id, claimId } = useParams<{ id: string; claimId: string }>();
  return <Screen key={claimId} boardId={id} claimId={claimId} />;
}
