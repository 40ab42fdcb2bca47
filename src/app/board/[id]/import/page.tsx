"use client";

import dynamic from "next/dynamic";
import { useParams, useSearchParams } from "next/navigation";
import { Suspense, useEffect } from "react";
import { ReviewScreen } from "../../../review-screen";

const Screen = dynamic(() => import("@/features/import/import-page").then((m) => m.ImportPage), { ssr: false });

/** An import ends on its result: that page's code is fetched while the columns are looked at. */
const resultAhead = () => ReviewScreen.ahead();

function Import() {
  const { id } = useParams<{ id: string }>();
  useEffect(resultAhead, []);
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
