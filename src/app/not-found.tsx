import { Link } from "@/ui/link";
import { Section } from "@/ui/section";

export default function NotFound() {
  return (
    <div className="sheet">
      <Section level={1} title="There is no such page">
        <p className="max-w-prose">
          Perhaps its address was cut short. <Link href="/" className="underline underline-offset-4">All boards</Link> lie on the first page.
        </p>
      </Section>
    </div>
  );
}
