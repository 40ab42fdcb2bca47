"use client";

import { useState } from "react";
import { Dialog } from "@/ui/dialog";
import { Key } from "@/ui/button";
import { Link } from "@/ui/link";
import { keysOffered } from "./page-acts";

const EVERYWHERE: readonly (readonly [key: string, does: string])[] = [
  ["Ctrl K", "go to a board, cell or run, or do what this page offers"],
  ["Ctrl Z", "undo the last change"],
  ["Ctrl Shift Z", "redo it"],
  ["?", "show these keys"],
  ["Esc", "close a dialog"],
];

function List({ title, keys }: { readonly title: string; readonly keys: readonly (readonly [string, string])[] }) {
  return (
    <>
      <h3 className="mb-1 mt-3 font-semibold first:mt-0">{title}</h3>
      <dl className="grid grid-cols-[9rem_minmax(0,1fr)] gap-y-1">
        {keys.map(([key, does]) => (
          <div key={key + does} className="contents">
            <dt>
              <Key>{key}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </>
  );
}

/** The single keys that work here. */
export function KeysDialog({ onClose }: { onClose(): void }) {
  const [here] = useState(keysOffered);
  return (
    <Dialog
      title="Keys and guide"
      about="Single keys work everywhere but in text fields and dialogs."
      onClose={onClose}
    >
      {here.length ? <List title="On this page" keys={here} /> : null}
      <List title="Everywhere" keys={EVERYWHERE} />
      <p className="mt-4 border-t border-rule pt-3">
        <Link href="/guide" className="underline underline-offset-4" onClick={onClose}>
          Guide: each task, step by step
        </Link>
      </p>
    </Dialog>
  );
}
