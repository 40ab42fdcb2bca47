import { useEffect, useState } from "react";

/** A dialog takes no files, and is not left for one. */
const dialogOpen = (): boolean => document.querySelector('[role="dialog"]') !== null;
const holdsFiles = (e: DragEvent): boolean => [...(e.dataTransfer?.types ?? [])].includes("Files");

/** Takes files that are dropped anywhere on the page, but where a part of it takes them itself. True while some are held over it. */
export function useDropped(onFiles: (files: readonly File[]) => void): boolean {
  const [over, setOver] = useState(false);
  useEffect(() => {
    const onOver = (e: DragEvent) => {
      if (!holdsFiles(e)) return;
      setOver(!e.defaultPrevented && !dialogOpen());
      // Without this the browser would leave the page for the file.
      e.preventDefault();
    };
    const onLeave = (e: DragEvent) => {
      if (e.relatedTarget === null) setOver(false);
    };
    const onDrop = (e: DragEvent) => {
      setOver(false);
      if (e.defaultPrevented || !holdsFiles(e)) return;
      e.preventDefault();
      if (dialogOpen()) return;
      const files = [...(e.dataTransfer?.files ?? [])];
      if (files.length) onFiles(files);
    };
    window.addEventListener("dragover", onOver);
    window.addEventListener("dragleave", onLeave);
    window.addEventListener("drop", onDrop);
    return () => {
      window.removeEventListener("dragover", onOver);
      window.removeEventListener("dragleave", onLeave);
      window.removeEventListener("drop", onDrop);
    };
  }, [onFiles]);
  return over;
}
