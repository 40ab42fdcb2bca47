import clsx from "clsx";
import type { ButtonHTMLAttributes } from "react";

export interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** `main` for the one obvious next step, `plain` for the rest, `danger` for what destroys, `bare` inside text. */
  readonly look?: "main" | "plain" | "danger" | "bare";
  /** Low, in a row of a table. */
  readonly dense?: boolean;
  /** The single key that does the same. */
  readonly keyName?: string;
}

export function buttonClass(look: ButtonProps["look"] = "plain", dense = false): string {
  return clsx(
    "inline-flex items-center gap-2 whitespace-nowrap disabled:opacity-50",
    look !== "bare" &&
      (dense ? "px-2 text-sm font-medium border pointer-coarse:min-h-11" : "min-h-9 px-3 py-1 font-medium border"),
    look === "main" && "bg-copper text-on-copper border-copper",
    look === "plain" && "bg-field border-pencil/60 hover:border-ink",
    look === "danger" && "bg-field text-misses border-misses",
    look === "bare" && "underline underline-offset-4 decoration-pencil/60 hover:decoration-ink",
  );
}

export function Button({
  look = "plain",
  dense = false,
  keyName,
  className,
  children,
  type = "button",
  ...rest
}: ButtonProps) {
  return (
    <button
      type={type}
      className={clsx(buttonClass(look, dense), className)}
      {...(keyName ? { "aria-keyshortcuts": keyName } : {})}
      {...rest}
    >
      {children}
      {keyName ? <Key on={look === "main"}>{keyName}</Key> : null}
    </button>
  );
}

/** A key cap. */
export function Key({ children, on = false }: { children: string; on?: boolean }) {
  return (
    <kbd
      aria-hidden
      className={clsx(
        "figures pointer-coarse:hidden border px-1.5 text-xs leading-5",
        on ? "border-on-copper/60" : "border-rule bg-film text-pencil",
      )}
    >
      {children}
    </kbd>
  );
}
