"use client";

import { useRouter } from "next/navigation";
import { useState, type ReactNode } from "react";
import { attempt } from "@/browser/notify";
import { Button } from "@/ui/button";
import { FileButton } from "@/ui/file-button";
import { Link } from "@/ui/link";
import { ArchiveButton } from "./archive-button";
import { createNotebook, loadDemo } from "./notebooks";

/** A picture of a screen, taken from the demo's data, in the colours of the page. */
function Picture({ name, alt }: { readonly name: string; readonly alt: string }) {
  const frame = "aspect-[3/2] w-full border border-pencil/60 object-cover object-left-top";
  return (
    <>
      {/* eslint-disable-next-line @next/next/no-img-element -- a small file of our own, as it is */}
      <img
        src={`/start/${name}-light.png`}
        alt={alt}
        width={720}
        height={480}
        loading="lazy"
        className={`${frame} [:root[data-theme=dark]_&]:hidden`}
      />
      {/* eslint-disable-next-line @next/next/no-img-element -- the same in dark */}
      <img
        src={`/start/${name}-dark.png`}
        alt={alt}
        width={720}
        height={480}
        loading="lazy"
        className={`${frame} hidden [:root[data-theme=dark]_&]:block`}
      />
    </>
  );
}

/** One way in: what one gets, in a picture and a line, and the act that begins it. */
function Way({
  title,
  text,
  picture,
  alt,
  children,
}: {
  readonly title: string;
  readonly text: string;
  readonly picture: string;
  readonly alt: string;
  readonly children: ReactNode;
}) {
  return (
    <section aria-label={title} className="flex flex-col gap-2 border-t-2 border-margin pt-3">
      <h2 className="text-lg font-semibold">{title}</h2>
      <p className="text-sm text-pencil">{text}</p>
      <Picture name={picture} alt={alt} />
      <div className="mt-1">{children}</div>
    </section>
  );
}

/** What a new user sees: the three ways in. */
export function StartPage({
  onOpen,
  onFiles,
  archive,
}: {
  onOpen(id: string): void;
  onFiles(files: readonly File[]): void;
  /** One that was dropped on the page. */ readonly archive: File | null;
}) {
  const [busy, setBusy] = useState(false);
  const router = useRouter();
  const open = (make: () => Promise<{ id: string }>) => {
    setBusy(true);
    void attempt(async () => onOpen((await make()).id)).finally(() => setBusy(false));
  };
  const addBoard = () => {
    router.replace("/?add=board");
    open(() => createNotebook("My notebook"));
  };
  return (
    <div className="border border-rule bg-sheet px-4 pb-6 pt-5 min-[900px]:px-8">
      <h1 className="text-2xl font-semibold tracking-tight">A bench notebook that does the arithmetic</h1>
      <p className="mb-5 max-w-prose text-pencil">
        For small charger, protection and boost modules: plan, measure, and read which claims hold, how surely, and why.
      </p>
      <div className="grid gap-x-8 gap-y-6 min-[800px]:grid-cols-3">
        <Way
          title="Open a log"
          text="Drop a CSV anywhere on this page: its curves and results at once. Nothing is stored until you save it."
          picture="log"
          alt="A charge: its result in words, its curves and its measured quantities"
        >
          <FileButton several look="main" label="Logs to open" onFiles={onFiles}>
            Open log
          </FileButton>
        </Way>
        <Way
          title="Add a board"
          text="Its claims, then the order of work: each run planned, the verdicts with their uncertainty."
          picture="board"
          alt="A board: its order of work and its runs"
        >
          <Button disabled={busy} onClick={addBoard}>
            Add board
          </Button>
        </Way>
        <Way
          title="Look at the demo"
          text="Seven made-up boards, measured and judged, with the mistakes that are easy to make."
          picture="compare"
          alt="Seven boards on one axis of measured over claimed"
        >
          <Button disabled={busy} onClick={() => open(loadDemo)}>
            Load demo
          </Button>
        </Way>
      </div>
      <div className="mt-6 flex flex-wrap items-center gap-3 border-t border-rule pt-3 text-sm text-pencil">
        <Button disabled={busy} onClick={() => open(() => createNotebook("My notebook"))}>
          Start empty notebook
        </Button>
        <span>Everything stays in this browser until you export it.</span>
        <Link href="/guide" className="mr-auto underline underline-offset-4">
          Guide
        </Link>
        <ArchiveButton busy={busy} onBusy={setBusy} onOpen={onOpen} dropped={archive} />
      </div>
    </div>
  );
}
