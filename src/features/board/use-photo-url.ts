"use client";

import { useEffect, useMemo } from "react";
import type { PhotoRecord } from "@/core/files/records";

/** The address of a photo's bytes for as long as it is shown. */
export function usePhotoUrl(photo: PhotoRecord): string {
  const url = useMemo(() => URL.createObjectURL(new Blob([photo.bytes as BlobPart], { type: photo.mime })), [photo]);
  useEffect(() => () => URL.revokeObjectURL(url), [url]);
  return url;
}
