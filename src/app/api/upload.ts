import { refuse } from "./answers";

/** Bytes of a request at most. */
export const MOST_BYTES = 64 * 1024 * 1024;
const MEGABYTE = 1024 * 1024;

const tooLong = (): Response =>
  refuse(413, {
    where: "body",
    found: `It has more than ${MOST_BYTES / MEGABYTE} MB.`,
    remedy: "Split the log, or open it in the application.",
  });
const cutShort = (found: string): Response =>
  refuse(400, { where: "body", found, remedy: "Send the whole body again." });

/**
 * A multipart body, read as it comes: more than 64 MB is refused at once, fewer bytes than Content-Length promised are refused whatever they
 * hold. The parts in their order, or what to answer instead.
 */
export async function parts(
  request: Request,
): Promise<
  | { readonly ok: true; readonly list: readonly (readonly [name: string, value: string | File])[] }
  | { readonly ok: false; readonly response: Response }
> {
  const no = (response: Response) => ({ ok: false as const, response });
  const type = request.headers.get("content-type") ?? "";
  if (!type.toLowerCase().startsWith("multipart/form-data"))
    return no(
      refuse(400, {
        where: "Content-Type",
        found: type ? `“${type}”` : "It is missing.",
        remedy: "Send multipart/form-data with the file as the field log.",
      }),
    );
  const length = request.headers.get("content-length");
  const promised = length === null ? null : Number(length);
  if (promised !== null && promised > MOST_BYTES) return no(tooLong());
  const chunks: Uint8Array<ArrayBuffer>[] = [];
  let received = 0;
  try {
    const reader = request.body?.getReader();
    for (let next = await reader?.read(); next && !next.done; next = await reader?.read()) {
      received += next.value.byteLength;
      if (received > MOST_BYTES) {
        await reader?.cancel();
        return no(tooLong());
      }
      chunks.push(next.value as Uint8Array<ArrayBuffer>);
    }
  } catch {
    return no(cutShort(`It broke off after ${received} bytes.`));
  }
  if (promised !== null && received < promised)
    return no(cutShort(`${received} bytes came of the ${promised} that Content-Length states.`));
  try {
    const form = await new Response(new Blob(chunks), { headers: { "content-type": type } }).formData();
    return { ok: true, list: [...form.entries()] };
  } catch {
    return no(cutShort("It is no multipart body, or its last part is incomplete."));
  }
}
