import { notFound } from "next/navigation";
import { Guide, tasks } from "../guide";

export const metadata = { title: "Guide · Nimbus Bench" };

export default async function Page({ params }: { readonly params: Promise<{ readonly task: string }> }) {
  const { task } = await params;
  const all = await tasks();
  return <Guide all={all} task={all.find((t) => t.slug === task) ?? notFound()} />;
}
