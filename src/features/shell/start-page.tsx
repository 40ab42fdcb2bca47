"use client";

import dynamic from "next/dynamic";
import { useState } from "react";
import { attempt } from "@/session/notify";
import { Button } from "@/ui/button";
import { Section } from "@/ui/section";
import { createNotebook, loadDemo } from "./notebooks";

const ImportArchive = dynamic(() => import("./import-archive").then((m) => m.ImportArchive), { ssr: false });

/** What a new user sees: two ways in, and what the notebook is for. */
export function StartPage({ onOpen }: { onOpen(id: string): void }) {
  const [busy, setBusy] = useState(false);
  const open = (make: () => Promise<{ id: string }>) => {
    setBusy(true);
    void attempt(async () => onOpen((await make()).id)).finally(() => setBusy(false));
  };
  return (
    <div className="sheet">
      <Section level={1} mark="begin" title="A bench notebook that does the arithmetic">
        <p className="mb-4 max-w-prose">
          Compare small charger, protection and boost modules with their claims: plan, measure, and read which claims hold, how surely, and why.
        </p>
        <div className="flex flex-wrap gap-3">
          <Button look="main" disabled={busy} onClick={() => open(() => createNotebook("My notebook"))}>
            Start empty notebook
          </Button>
          <Button disabled={busy} onClick={() => open(loadDemo)}>
            Load demo
          </Button>
          <ImportArchive busy={busy} onBusy={setBusy} onOpen={onOpen} />
        </div>
        <p className="mt-4 max-w-prose text-sm text-pencil">Everything stays in this browser until you export it. The demo is a notebook of its own.</p>
      </Section>
    </div>
  );
}
