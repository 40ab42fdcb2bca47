"use client";

import { useParams } from "next/navigation";
import { screenOf } from "../../../screen";

const Screen = screenOf(() => import("@/features/log/log-page").then((m) => m.LogPage));

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <Screen key={id} id={id} />;
}
