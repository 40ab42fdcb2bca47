"use client";

import Link from "next/link";
import { usePathname } from "next/navigation";
import type { Theme } from "@/browser/theme";
import { Dialog } from "@/ui/dialog";
import { nextTheme, placeHref, PLACES, themeText, type ShellDialog } from "./header";

/** The places and acts of the header, where it has no room for them. */
export function MenuDialog({
  theme,
  onTheme,
  onOpen,
  onClose,
}: {
  readonly theme: Theme;
  onTheme(t: Theme): void;
  onOpen(d: ShellDialog): void;
  onClose(): void;
}) {
  const path = usePathname();
  const row = "flex min-h-11 w-full items-center text-left text-base aria-[current=page]:font-semibold";
  return (
    <Dialog title="Menu" about="Places and acts." onClose={onClose}>
      <ul className="divide-y divide-rule">
        <li>
          <Link href="/" className={row} onClick={onClose}>
            Notebook
          </Link>
        </li>
        {PLACES.map(([href, label]) => (
          <li key={href}>
            <Link
              href={placeHref(href, path)}
              className={row}
              onClick={onClose}
              {...(path.startsWith(href) ? { "aria-current": "page" as const } : {})}
            >
              {label}
            </Link>
          </li>
        ))}
        {(
          [
            ["palette", "Go to …"],
            ["history", "History"],
            ["notebooks", "Notebooks and archives"],
          ] as const
        ).map(([dialog, label]) => (
          <li key={dialog}>
            <button type="button" className={row} onClick={() => onOpen(dialog)}>
              {label}
            </button>
          </li>
        ))}
        <li>
          <button type="button" className={row} onClick={() => onTheme(nextTheme(theme))}>
            {themeText(theme)}
          </button>
        </li>
      </ul>
    </Dialog>
  );
}
