import { readFile } from "node:fs/promises";
import { join } from "node:path";

/** A picture of the guide; nothing but those has such a name. */
export async function GET(
  _: Request,
  { params }: { readonly params: Promise<{ readonly name: string }> },
): Promise<Response> {
  const { name } = await params;
  if (!/^[a-z-]+$/.test(name)) return new Response("Not found", { status: 404 });
  try {
    const bytes = await readFile(join(process.cwd(), "docs", "screenshots", `${name}.png`));
    return new Response(new Uint8Array(bytes), {
      headers: { "Content-Type": "image/png", "X-Content-Type-Options": "nosniff", "Cache-Control": "max-age=3600" },
    });
  } catch {
    return new Response("Not found", { status: 404 });
  }
}
