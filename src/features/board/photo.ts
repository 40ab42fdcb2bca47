/** Pixels of a photo's longer side that a screen needs. */
export const PHOTO_SIDE = 2000;
const LARGEST = 40e6;
/** What a browser draws and never runs: shown as it is. Anything else, SVG above all, is drawn onto a canvas first. */
const DRAWN: ReadonlySet<string> = new Set([
  "image/png",
  "image/jpeg",
  "image/webp",
  "image/gif",
  "image/avif",
  "image/bmp",
]);

/** Whether a stored photo may be opened by itself under its own type. */
export const safeToOpen = (mime: string): boolean => DRAWN.has(mime);

export interface ReadPhoto {
  readonly mime: string;
  readonly bytes: Uint8Array;
}

async function pictureOf(file: Blob, name: string): Promise<HTMLImageElement> {
  const url = URL.createObjectURL(file);
  const img = new Image();
  img.src = url;
  try {
    await img.decode();
    return img;
  } catch {
    throw new Error(`${name} can't be shown as a picture. Save it as PNG or JPEG and add it again.`);
  } finally {
    URL.revokeObjectURL(url);
  }
}

/**
 * A photo as it is kept: scaled to at most 2,000 pixels where it is larger, unless the original is wanted. A drawing that could hold
 * scripts is kept as the picture that it draws. Throws where it is no picture.
 */
export async function readPhoto(file: File, original: boolean): Promise<ReadPhoto> {
  if (!file.type.startsWith("image/")) throw new Error(`${file.name} is no picture.`);
  if (file.size > LARGEST)
    throw new Error(`${file.name} has ${(file.size / 1e6).toFixed(0)} MB; the limit is ${LARGEST / 1e6} MB.`);
  const img = await pictureOf(file, file.name);
  const [w, h] = [img.naturalWidth || 1000, img.naturalHeight || 1000];
  const scale = Math.min(1, PHOTO_SIDE / Math.max(w, h));
  if (safeToOpen(file.type) && (original || scale === 1))
    return { mime: file.type, bytes: new Uint8Array(await file.arrayBuffer()) };
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(w * scale));
  canvas.height = Math.max(1, Math.round(h * scale));
  canvas.getContext("2d")?.drawImage(img, 0, 0, canvas.width, canvas.height);
  const mime = file.type === "image/jpeg" || file.type === "image/webp" ? "image/jpeg" : "image/png";
  const blob = await new Promise<Blob | null>((done) => canvas.toBlob(done, mime, 0.85));
  if (!blob) throw new Error(`${file.name} can't be shown as a picture. Save it as PNG or JPEG and add it again.`);
  return { mime, bytes: new Uint8Array(await blob.arrayBuffer()) };
}
