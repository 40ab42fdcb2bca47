import { decodeText, encodingOf, ENCODING_NAMES } from "@/core/files";
import { notify } from "@/browser/notify";

/** Bytes that show how a file is spelt. */
const SPELT = 65536;

/** A file whose bytes a log's reader can take as they come: UTF-16 is written anew as UTF-8, and said. */
export async function readable(file: File): Promise<File> {
  const encoding = encodingOf(new Uint8Array(await file.slice(0, SPELT).arrayBuffer()), file.size <= SPELT);
  if (encoding !== "utf-16le" && encoding !== "utf-16be") return file;
  await notify(`${file.name} is written in ${ENCODING_NAMES[encoding]}; it is read and stored as UTF-8.`);
  return new File([decodeText(new Uint8Array(await file.arrayBuffer())).text], file.name, {
    lastModified: file.lastModified,
  });
}
