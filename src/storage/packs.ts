import type { PackRecord } from "@/core/files/records";
import { change, newId, now } from "./door";
import { freeName, namingIn, titlesOf } from "./naming";

/** Puts cells together: `groups` in series, each of parallel cells by their ids. */
export async function addPack(title: string, groups: PackRecord["groups"], note: string, notebookId: PackRecord["notebookId"]): Promise<PackRecord> {
  return namingIn(notebookId, async () => {
    const at = now();
    const pack: PackRecord = { kind: "pack", id: newId(), notebookId, createdAt: at, updatedAt: at, title: freeName(title, await titlesOf(notebookId, "pack")), groups, note };
    await change(`add pack ${pack.title}`, [pack]);
    return pack;
  });
}
