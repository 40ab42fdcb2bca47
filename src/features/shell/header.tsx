"use client";

// The few places of the header are fetched before they are followed, unlike all other links.
import Link from "next/link";
import { Menu, Redo2, Undo2 } from "lucide-react";
import { usePathname } from "next/navigation";
import type { ReactNode } from "react";
import type { NotebookRecord } from "@/core/files/records";
import { attempt, notify, undoneText } from "@/browser/notify";
import type { Theme } from "@/browser/theme";
import { useLeftAlone } from "@/browser/use-later";
import { nextActs, redo, undo, useLive } from "@/storage";
import { Key } from "@/ui/button";
import { lastArchive } from "./notebooks";

export type ShellDialog = "notebooks" | "palette" | "history" | "keys" | "menu";

/** The sums are fed from what is open when they are asked for. */
function beside(path: string): string {
  const [, kind, id] = /^\/(board|run|cells)\/([^/]+)/.exec(path) ?? [];
  return kind && id && id !== "labels" ? `?${kind === "cells" ? "cell" : kind}=${id}` : "";
}
export const PLACES = [
  ["/compare", "Compare"],
  ["/decide", "Decide"],
  ["/use", "Use"],
  ["/day", "Day"],
  ["/cells", "Cells"],
  ["/instruments", "Instruments"],
  ["/sums", "Sums"],
  ["/rules", "House rules"],
] as const;
export const placeHref = (href: string, path: string): string => (href === "/sums" ? `/sums${beside(path)}` : href);
export const nextTheme = (theme: Theme): Theme =>
  theme === "system" ? "light" : theme === "light" ? "dark" : "system";
export const themeText = (theme: Theme): string => `Colours: ${theme}`;

/** ms without a touch after which the header's places are fetched: before that the page that was asked for, and whoever works on it, has the machine alone. */
const QUIET = 3000;

export interface HeaderProps {
  readonly notebook: NotebookRecord | null;
  readonly theme: Theme;
  onTheme(t: Theme): void;
  onOpen(d: ShellDialog): void;
}

/** Where one is, the way to anywhere else, and the way back. On a phone one row: the places are in the menu. */
export function Header({ notebook, theme, onTheme, onOpen }: HeaderProps) {
  const path = usePathname();
  const prefetch = useLeftAlone(QUIET) ? null : false;
  const archive = useLive(
    `archive-${notebook?.id}`,
    () => (notebook ? lastArchive(notebook.id) : Promise.resolve(null)),
    (n) => n.kinds.includes("meta"),
  );
  const date = archive.state === "ready" ? archive.value : null;
  return (
    <header className="no-print mx-auto flex max-w-[80rem] items-center gap-x-4 px-4 py-2 text-sm">
      <Link href="/" prefetch={prefetch} className="whitespace-nowrap text-base font-semibold tracking-tight">
        <span className="border-b-2 border-margin">Nimbus</span> Bench
      </Link>
      {notebook ? (
        <>
          <button
            type="button"
            className="min-w-0 truncate pointer-coarse:min-h-11"
            title={date ? `archived ${date}` : "never archived"}
            onClick={() => onOpen("notebooks")}
          >
            {notebook.title}
          </button>
          <span className="hidden whitespace-nowrap text-pencil min-[1180px]:inline">
            {date ? `archived ${date}` : "never archived"}
          </span>
          <span className="ml-auto inline-flex shrink-0 items-center gap-x-3.5">
            <Back notebookId={notebook.id} onHistory={() => onOpen("history")} />
            <nav aria-label="Places" className="hidden items-center gap-x-3.5 min-[900px]:inline-flex">
              <button type="button" className="inline-flex items-center gap-2" onClick={() => onOpen("palette")}>
                Go to <Key>Ctrl K</Key>
              </button>
              {PLACES.map(([href, label]) => (
                <Link
                  key={href}
                  href={placeHref(href, path)}
                  prefetch={prefetch}
                  {...(path.startsWith(href) ? { "aria-current": "page" as const } : {})}
                  className="border-b-2 border-transparent py-0.5 hover:border-rule aria-[current=page]:border-margin"
                >
                  {label}
                </Link>
              ))}
              <button
                type="button"
                onClick={() => onTheme(nextTheme(theme))}
                aria-label={`Light or dark: ${theme}. Change to ${nextTheme(theme)}`}
              >
                {themeText(theme)}
              </button>
              <button
                type="button"
                className="px-1 font-semibold"
                aria-label="Keys"
                aria-keyshortcuts="?"
                onClick={() => onOpen("keys")}
              >
                ?
              </button>
            </nav>
            <IconButton label="Menu" className="min-[900px]:hidden" onClick={() => onOpen("menu")}>
              <Menu size={20} aria-hidden />
            </IconButton>
          </span>
        </>
      ) : null}
    </header>
  );
}

function IconButton({
  label,
  title,
  className = "",
  disabled = false,
  onClick,
  children,
}: {
  readonly label: string;
  readonly title?: string;
  readonly className?: string;
  readonly disabled?: boolean;
  onClick(): void;
  readonly children: ReactNode;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      title={title ?? label}
      disabled={disabled}
      onClick={onClick}
      className={`inline-flex items-center justify-center p-1 disabled:opacity-35 pointer-coarse:min-h-11 pointer-coarse:min-w-11 ${className}`}
    >
      {children}
    </button>
  );
}

/** Undo, redo, and what they would take back. */
function Back({ notebookId, onHistory }: { readonly notebookId: string; onHistory(): void }) {
  const next = useLive(`next-acts-${notebookId}`, () => nextActs(notebookId));
  const [back, again] = next.state === "ready" ? [next.value.undo, next.value.redo] : [null, null];
  const go = (act: typeof undo, verb: "Undone" | "Redone") =>
    void attempt(async () => notify(undoneText(await act(notebookId), verb)));
  return (
    <span role="group" aria-label="Changes" className="inline-flex items-center">
      <IconButton
        label="Undo"
        title={back ? `Undo: ${back} (Ctrl Z)` : "Nothing to undo"}
        disabled={back === null}
        onClick={() => go(undo, "Undone")}
      >
        <Undo2 size={17} aria-hidden />
      </IconButton>
      <IconButton
        label="Redo"
        title={again ? `Redo: ${again} (Ctrl Shift Z)` : "Nothing to redo"}
        disabled={again === null}
        onClick={() => go(redo, "Redone")}
      >
        <Redo2 size={17} aria-hidden />
      </IconButton>
      <button type="button" className="hidden px-1 min-[900px]:inline" onClick={onHistory}>
        History
      </button>
    </span>
  );
}
