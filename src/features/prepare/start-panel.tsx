"use client";

import type { Caution } from "@/core/procedures";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";

export interface StartPanelProps {
  readonly label: string;
  onStart(): void;
  readonly cautions: readonly Caution[];
  readonly checked: ReadonlySet<string>;
  onChecked(checked: ReadonlySet<string>): void;
  readonly busy: boolean;
  /** A field can't be read, something is refused. */
  readonly unread: boolean;
  readonly refused?: boolean;
  /** Something else that is being waited for. */
  readonly waiting?: string | null;
  /** Said once nothing stands in the way. */
  readonly ready?: string;
}

/** The dangers to be done before anything is connected, and the start of the run: in sight from wherever on the page one is. */
export function StartPanel({
  label,
  onStart,
  cautions,
  checked,
  onChecked,
  busy,
  unread,
  refused = false,
  waiting = null,
  ready = "",
}: StartPanelProps) {
  const dangers = cautions.filter((c) => c.severity === "danger");
  const open = dangers.filter((c) => !checked.has(c.text)).length;
  const toggle = (text: string, on: boolean) =>
    onChecked(new Set(on ? [...checked, text] : [...checked].filter((x) => x !== text)));
  return (
    <section
      aria-label="Start"
      className="z-10 border-t-2 border-margin bg-sheet px-4 py-2 min-[900px]:sticky min-[900px]:bottom-0 min-[900px]:px-6"
    >
      {dangers.length ? (
        <ul className="mb-2 grid max-h-[38vh] gap-x-6 gap-y-1 overflow-y-auto min-[1000px]:grid-cols-2">
          {dangers.map((c) => (
            <li key={c.text}>
              <Checkbox checked={checked.has(c.text)} onChecked={(on) => toggle(c.text, on)}>
                <span className="leading-snug">
                  <strong className="text-misses">Danger. </strong>
                  {c.text}
                </span>
              </Checkbox>
            </li>
          ))}
        </ul>
      ) : null}
      <div className="flex flex-wrap items-center gap-4">
        <Button look="main" onClick={onStart} disabled={busy || open > 0 || refused || unread || waiting !== null}>
          {label}
        </Button>
        <span className="text-sm text-pencil" role="status">
          {unread
            ? "A field above is invalid."
            : refused
              ? "See “Blocked” above."
              : open > 0
                ? `Tick ${open} ${open === 1 ? "danger" : "dangers"} above when done.`
                : (waiting ?? ready)}
        </span>
      </div>
    </section>
  );
}
