"use client";

import dynamic from "next/dynamic";
import { useParams, useSearchParams } from "next/navigation";
import { Suspense } from "react";

const Screen = dynamic(() => import("@/features/import/import-page").then((m) => m.ImportPage), { ssr: false });

function Import() {
  const { id } = useParams<{ id: string }>();
  const of = useSearchParams().get("of") ?? "load-sweep";
  return <Screen key={id + of} boardId={id} procedureId={of} />;
}

export default function Page() {
  return (
    <Suspense>
      <Import />
    </Suspense>
  );
}
