"use client";

import { useRef, type ReactNode } from "react";
import { Button, type ButtonProps } from "./button";

/** A button that asks for one table of text; the same file may be chosen twice. `label` names the field for those who can't see it. */
export function FileButton({ label, look = "plain", onFile, children }: { label: string; look?: ButtonProps["look"]; onFile(file: File): void; children: ReactNode }) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button look={look} onClick={() => picker.current?.click()}>
        {children}
      </Button>
      <input
        ref={picker}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        className="sr-only"
        tabIndex={-1}
        aria-label={label}
        onChange={(e) => {
          const file = e.target.files?.[0];
          e.target.value = "";
          if (file) onFile(file);
        }}
      />
    </>
  );
}
