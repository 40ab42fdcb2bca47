/** What a route handler answers where it gives no result: where, what was found, what to do. */
export interface Refusal {
  readonly where: string;
  readonly found: string;
  readonly remedy: string;
}

const HEADERS = {
  "X-Content-Type-Options": "nosniff",
  "Content-Security-Policy": "default-src 'none'",
  "Cache-Control": "no-store",
};

export const answer = (body: unknown, status = 200, headers: Readonly<Record<string, string>> = {}): Response =>
  Response.json(body, { status, headers: { ...HEADERS, ...headers } });

export const refuse = (
  status: 400 | 403 | 404 | 405 | 413 | 422,
  refusal: Refusal,
  headers: Readonly<Record<string, string>> = {},
): Response => answer(refusal, status, headers);

/** Names by which this machine calls itself. A page elsewhere whose name is made to lead here has another one. */
const OWN_HOSTS = new Set(["localhost", "127.0.0.1", "[::1]"]);
const withoutPort = (host: string): string => host.replace(/:\d+$/, "").toLowerCase();

/** Refuses a request that comes from elsewhere: by another host's name, or from another origin's page. Null where it may be answered. */
export function foreign(request: Request): Response | null {
  const host = request.headers.get("host") ?? "";
  if (!OWN_HOSTS.has(withoutPort(host)))
    return refuse(403, {
      where: "Host",
      found: `“${host}” is not this machine.`,
      remedy: "Send the request to localhost, 127.0.0.1 or [::1].",
    });
  const origin = request.headers.get("origin");
  if (origin === null || origin === `http://${host}`) return null;
  return refuse(403, {
    where: "Origin",
    found: `“${origin}” is another origin.`,
    remedy: "Send the request from a script, not from another site's page.",
  });
}

/** Handlers of every method that a route has no use for. */
export function refusing<M extends string>(methods: readonly M[], allowed: string): Record<M, () => Response> {
  const no = () =>
    refuse(
      405,
      { where: "method", found: "This address has no use for it.", remedy: `Use ${allowed}.` },
      { Allow: allowed },
    );
  return Object.fromEntries(methods.map((m) => [m, no])) as Record<M, () => Response>;
}
