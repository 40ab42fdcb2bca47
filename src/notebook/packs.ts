import type { CellRecord, PackRecord } from "@/core/files/records";
import { packEntry } from "@/core/use/pack";
import { change, newId, now, remove, type Act } from "@/storage/door";
import type { DrawerCell } from "./drawer";
import { freeName, namingIn, titlesOf } from "./naming";
import { record } from "@/storage/queries";

/** Puts cells together: `groups` in series, each of parallel cells. The pack is an entry of the drawer too, with a code and runs of its own. */
export async function addPack(
  title: string,
  groups: readonly (readonly DrawerCell[])[],
  note: string,
  notebookId: PackRecord["notebookId"],
): Promise<PackRecord> {
  return namingIn(notebookId, async () => {
    const at = now();
    const stamp = { notebookId, createdAt: at, updatedAt: at };
    const named = freeName(
      title,
      new Set([...(await titlesOf(notebookId, "pack")), ...(await titlesOf(notebookId, "cell"))]),
    );
    const entry = packEntry(
      groups.map((g) =>
        g.map(({ cell, capacity }) => ({
          chemistry: cell.chemistry,
          capacity: capacity?.value ?? cell.capacity,
          rated: cell.capacity,
          chargeRateLimit: cell.chargeRateLimit,
        })),
      ),
    );
    const cell: CellRecord = {
      kind: "cell",
      id: newId(),
      ...stamp,
      title: named,
      ...entry,
      ownProtection: false,
      note: "",
    };
    const pack: PackRecord = {
      kind: "pack",
      id: newId(),
      ...stamp,
      title: named,
      groups: groups.map((g) => g.map((c) => c.cell.id)),
      cellId: cell.id,
      note,
    };
    await change(`add pack ${named}`, [cell, pack]);
    return pack;
  });
}

/** Takes a pack apart: its cells are free again, and it is no entry of the drawer any more. Its runs stay. */
export async function takeApart(pack: PackRecord): Promise<Act | null> {
  const entry = pack.cellId ? await record("cell", pack.cellId) : null;
  return remove(`take ${pack.title} apart`, [pack, ...(entry ? [entry] : [])]);
}
