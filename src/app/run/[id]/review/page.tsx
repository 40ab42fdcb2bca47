"use client";

import { useParams } from "next/navigation";
import { ReviewScreen } from "../../../review-screen";

ReviewScreen.ahead();

export default function Page() {
  const { id } = useParams<{ id: string }>();
  return <ReviewScreen key={id} id={id} />;
}
