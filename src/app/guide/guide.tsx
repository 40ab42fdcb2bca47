import { readFile } from "node:fs/promises";
import { join } from "node:path";
import Link from "next/link";
import Markdown, { type Components } from "react-markdown";

export interface Task {
  readonly slug: string;
  readonly title: string;
  readonly text: string;
}

const slugOf = (title: string): string =>
  title
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "");

/** The tasks of docs/guide.md, a section each. */
export async function tasks(): Promise<Task[]> {
  const text = await readFile(join(process.cwd(), "docs", "guide.md"), "utf8");
  return text
    .split(/^## /m)
    .slice(1)
    .map((section) => {
      const [title = "", ...lines] = section.split("\n");
      return { slug: slugOf(title), title: title.trim(), text: lines.join("\n") };
    });
}

const COMPONENTS: Components = {
  img: ({ src, alt }) => (
    <span className="my-4 block">
      {/* eslint-disable-next-line @next/next/no-img-element -- a file of our own, as it is */}
      <img
        src={`/guide/pictures/${String(src)
          .replace(/^.*\//, "")
          .replace(/\.png$/, "")}`}
        alt={alt ?? ""}
        loading="lazy"
        className="max-w-full border border-rule"
      />
      <span className="mt-1 block text-sm text-pencil">{alt}</span>
    </span>
  ),
  ol: ({ children }) => <ol className="my-2 list-decimal space-y-1.5 pl-6">{children}</ol>,
  ul: ({ children }) => <ul className="my-2 list-disc space-y-1 pl-6">{children}</ul>,
  p: ({ children }) => <p className="my-2">{children}</p>,
  code: ({ children }) => <code className="figures border border-rule bg-film px-1 text-sm">{children}</code>,
};

/** One task of the guide, with the others beside it. */
export function Guide({ all, task }: { readonly all: readonly Task[]; readonly task: Task }) {
  return (
    <div className="border border-rule bg-sheet min-[900px]:grid min-[900px]:grid-cols-[17rem_minmax(0,1fr)]">
      <nav
        aria-label="Guide"
        className="border-b border-rule px-4 py-4 text-sm min-[900px]:border-b-0 min-[900px]:border-r"
      >
        <p className="mb-2 font-semibold">Guide</p>
        <ul className="space-y-1">
          {all.map((t) => (
            <li key={t.slug}>
              <Link
                href={`/guide/${t.slug}`}
                {...(t.slug === task.slug ? { "aria-current": "page" as const } : {})}
                className="hover:underline aria-[current=page]:border-b-2 aria-[current=page]:border-margin"
              >
                {t.title}
              </Link>
            </li>
          ))}
        </ul>
      </nav>
      <article className="min-w-0 px-4 py-4 min-[900px]:px-6">
        <h1 className="text-2xl font-semibold tracking-tight">{task.title}</h1>
        <div className="max-w-prose [&_img]:max-w-full">
          <Markdown components={COMPONENTS}>{task.text}</Markdown>
        </div>
      </article>
    </div>
  );
}
