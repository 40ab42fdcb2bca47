import type { ReactNode } from "react";

export interface SectionProps {
  readonly id?: string;
  /** Hangs in the margin: the step's number or a short word. */
  readonly mark?: ReactNode;
  readonly title: string;
  readonly level?: 1 | 2 | 3;
  /** Stands right of the title. */
  readonly aside?: ReactNode;
  readonly children?: ReactNode;
}

/** A ruled stretch of the page with its heading in the margin column. */
export function Section({ id, mark, title, level = 2, aside, children }: SectionProps) {
  const Heading = `h${level}` as const;
  return (
    <section
      id={id}
      className="grid border-t border-rule first:border-t-0 min-[900px]:grid-cols-[10.5rem_minmax(0,1fr)]"
      aria-label={title}
    >
      <div className="px-4 pt-3 text-sm text-pencil min-[900px]:text-right">{mark}</div>
      <div className="min-w-0 px-4 pb-3 pt-2 min-[900px]:px-6 min-[900px]:pt-3">
        <div className="mb-2 flex flex-wrap items-baseline justify-between gap-x-4 gap-y-1">
          <Heading className={level === 1 ? "text-2xl font-semibold tracking-tight" : "text-lg font-semibold"}>
            {title}
          </Heading>
          {aside}
        </div>
        {children}
      </div>
    </section>
  );
}

/** A message where content would be: loading, failed, or nothing yet. */
export function Quiet({ children }: { children: ReactNode }) {
  return (
    <p role="status" className="p-8 text-pencil">
      {children}
    </p>
  );
}
