import { workingHere } from "@/notebook/here";
import { sheetsOf } from "@/notebook/sheet";
import { boards } from "@/storage/queries";

/** The sheet of every board as Markdown, file name → text; what is worked out for that is kept nowhere. */
export const archivedSheets = async (notebookId: string): Promise<ReadonlyMap<string, string>> =>
  sheetsOf(
    workingHere(() => undefined),
    await boards(notebookId),
  );
