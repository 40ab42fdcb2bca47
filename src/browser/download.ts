"use client";

import { fileStem } from "@/core/files/file-stem";

/** Hands a file to the browser's download list. */
export function download(name: string, content: BlobPart, mime: string): void {
  const url = URL.createObjectURL(new Blob([content], { type: mime }));
  const a = document.createElement("a");
  a.href = url;
  a.download = name;
  a.click();
  setTimeout(() => URL.revokeObjectURL(url), 10_000);
}

/** A file name from a title: letters, digits and dashes. */
export const fileName = (title: string, ending: string): string => `${fileStem(title) || "export"}.${ending}`;
