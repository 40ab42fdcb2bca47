import { notFound } from "next/navigation";
import { Guide, tasks } from "./guide";

export const metadata = { title: "Guide · Nimbus Bench" };

export default async function Page() {
  const all = await tasks();
  const first = all[0] ?? notFound();
  return <Guide all={all} task={first} />;
}
