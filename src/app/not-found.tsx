import { Link } from "@/ui/link";
import { Section } from "@/ui/section";

export default function NotFound() {
  return (
    <div className="sheet">
      <Section level={1} title="No such page">
        <p className="max-w-prose">
          The address may be incomplete.{" "}
          <Link href="/" className="underline underline-offset-4">
            All boards
          </Link>{" "}
          are on the first page.
        </p>
      </Section>
    </div>
  );
}
