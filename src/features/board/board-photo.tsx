"use client";

import type { BoardRecord, PhotoRecord, SampleRecord } from "@/core/files/records";
import { photosOf, useLive } from "@/storage";
import { usePhotoUrl } from "./use-photo-url";

/** The first photo of a board's samples, at its head; nothing where there is none. */
export function BoardPhoto({
  board,
  samples,
}: {
  readonly board: BoardRecord;
  readonly samples: readonly SampleRecord[];
}) {
  const live = useLive(
    `photo-of-${samples.map((s) => s.id).join()}`,
    async () => {
      for (const s of samples) {
        const [first] = await photosOf(s.id);
        if (first) return first;
      }
      return null;
    },
    (n) => n.kinds.includes("photo"),
  );
  return live.state === "ready" && live.value ? <Picture photo={live.value} title={board.title} /> : null;
}

function Picture({ photo, title }: { readonly photo: PhotoRecord; readonly title: string }) {
  const url = usePhotoUrl(photo);
  return (
    <a href="#samples" className="float-right ml-4">
      {/* eslint-disable-next-line @next/next/no-img-element -- a picture out of the browser's own storage: there is nothing for an image server to do */}
      <img src={url} alt={`Photo of ${title}: ${photo.name}`} className="max-h-28 border border-rule object-contain" />
    </a>
  );
}
