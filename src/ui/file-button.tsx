"use client";

import { useRef, type ReactNode } from "react";
import { Button, type ButtonProps } from "./button";

interface Common {
  readonly label: string;
  readonly look?: ButtonProps["look"];
  readonly children: ReactNode;
}
export type FileButtonProps = Common & ({ readonly several?: false; onFile(file: File): void } | { readonly several: true; onFiles(files: readonly File[]): void });

/** A button that asks for a table of text, or for several; the same file may be chosen twice. `label` names the field for those who can't see it. */
export function FileButton({ label, look = "plain", children, ...to }: FileButtonProps) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button look={look} onClick={() => picker.current?.click()}>
        {children}
      </Button>
      <input
        ref={picker}
        type="file"
        multiple={to.several ?? false}
        accept=".csv,.tsv,.txt,.log,text/csv,text/plain"
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
