"use client";

import { useRef, useState } from "react";
import type { PhotoRecord, SampleRecord } from "@/core/files/records";
import { attempt, notifyUndoable } from "@/browser/notify";
import { change, newId, now, photosOf, remove, useLive, undoAct } from "@/storage";
import { Button } from "@/ui/button";
import { Checkbox } from "@/ui/checkbox";
import { readPhoto, safeToOpen } from "./photo";
import { usePhotoUrl } from "./use-photo-url";

async function addPhotos(sample: SampleRecord, files: readonly File[], original: boolean): Promise<void> {
  const at = now();
  const records: PhotoRecord[] = [];
  for (const f of files) {
    records.push({
      kind: "photo",
      id: newId(),
      notebookId: sample.notebookId,
      createdAt: at,
      updatedAt: at,
      sampleId: sample.id,
      name: f.name,
      ...(await readPhoto(f, original)),
    });
  }
  await change(`photos of sample ${sample.name}`, records);
}

export function SamplePhotos({ sample }: { sample: SampleRecord }) {
  const live = useLive(
    `photos-${sample.id}`,
    () => photosOf(sample.id),
    (n) => n.kinds.includes("photo"),
  );
  const input = useRef<HTMLInputElement>(null);
  const [original, setOriginal] = useState(false);
  return (
    <div className="flex flex-wrap items-baseline gap-2">
      {live.state === "ready" ? live.value.map((p) => <Photo key={p.id} photo={p} />) : null}
      <Button look="bare" className="text-sm" onClick={() => input.current?.click()}>
        Add photos
      </Button>
      <Checkbox className="text-xs text-pencil" checked={original} onChecked={setOriginal}>
        full size (else at most 2,000 px)
      </Checkbox>
      <input
        ref={input}
        type="file"
        accept="image/*"
        multiple
        tabIndex={-1}
        className="sr-only"
        aria-label={`Photos of sample ${sample.name}`}
        onChange={(e) => {
          const files = [...(e.target.files ?? [])];
          e.target.value = "";
          if (files.length) void attempt(() => addPhotos(sample, files, original));
        }}
      />
    </div>
  );
}

function Photo({ photo }: { photo: PhotoRecord }) {
  // What came in an archive may be a drawing with scripts in it: shown as a picture it runs none, and it is never opened as a page.
  const safe = safeToOpen(photo.mime);
  const url = usePhotoUrl(photo);
  return (
    <span className="inline-flex flex-col text-xs">
      <a href={url} target={safe ? "_blank" : undefined} rel="noreferrer" download={safe ? undefined : photo.name}>
        {/* A picture out of the browser's own storage: there is nothing for an image server to do. */}
        <img src={url} alt={photo.name} className="h-20 border border-rule object-cover" />
      </a>
      <Button
        look="bare"
        onClick={() =>
          void attempt(async () => {
            const act = await remove(`delete photo ${photo.name}`, [photo]);
            await notifyUndoable(`${photo.name} is deleted.`, act && (() => undoAct(act)));
          })
        }
        aria-label={`Delete photo ${photo.name}`}
      >
        Delete
      </Button>
    </span>
  );
}
