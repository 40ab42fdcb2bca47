"use client";

import { useRef, type ReactNode } from "react";
import { Button, type ButtonProps } from "./button";

interface Common {
  readonly label: string;
  readonly look?: ButtonProps["look"];
  readonly disabled?: boolean;
  /** Kinds that the browser's dialog offers; tables of text where none are named. */
  readonly accept?: string;
  readonly children: ReactNode;
}
export type FileButtonProps = Common &
  (
    | { readonly several?: false; onFile(file: File): void }
    | { readonly several: true; onFiles(files: readonly File[]): void }
  );

const TABLES = ".csv,.tsv,.txt,.log,text/csv,text/plain";

/** A button that asks for a file, or for several; the same file may be chosen twice. `label` names the field for those who can't see it. */
export function FileButton({
  label,
  look = "plain",
  disabled = false,
  accept = TABLES,
  children,
  ...to
}: FileButtonProps) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button look={look} disabled={disabled} onClick={() => picker.current?.click()}>
        {children}
      </Button>
      <input
        ref={picker}
        type="file"
        multiple={to.several ?? false}
        accept={accept}
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = "";
          const [first] = files;
          if (!first) return;
          if (to.several) to.onFiles(files);
          else to.onFile(first);
        }}
      />
    </>
  );
}
