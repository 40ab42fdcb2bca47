"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../screen";

const Screen = screenOf(() => import("@/features/station/running-page").then((m) => m.RunningPage));

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
