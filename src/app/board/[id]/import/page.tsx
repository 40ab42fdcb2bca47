"use client";

import { useParams, useSearchParams } from "next/navigation";
import { Suspense, useEffect } from "react";
import { ReviewScreen } from "../../../review-screen";
import { screenOf } from "../../../screen";

const Screen = screenOf(() => import("@/features/import/import-page").then((m) => m.ImportPage));

/** An import ends on its result: that page's code is fetched while the columns are looked at. */
const resultAhead = () => ReviewScreen.ahead();

function Import() {
  const { id } = useParams<{ id: string }>();
  useEffect(resultAhead, []);
  const of = useSearchParams().get("of") ?? "";
  return <Screen key={id + of} boardId={id} procedureId={of} />;
}

export default function Page() {
  return (
    <Suspense>
      <Import />
    </Suspense>
  );
}
