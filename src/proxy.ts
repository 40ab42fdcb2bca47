import { NextResponse, type NextRequest } from "next/server";
import { securityPolicy } from "./security-policy";

/** Gives every page its own nonce and the policy that names it, on the request (for Next) and on the response. */
export function proxy(request: NextRequest): NextResponse {
  // Pages and their data are only ever read; nothing is sent to this server.
  if (request.method !== "GET" && request.method !== "HEAD")
    return new NextResponse(null, {
      status: 405,
      headers: { Allow: "GET, HEAD", "X-Content-Type-Options": "nosniff" },
    });
  // A file is no page: it carries the policy that is configured for files.
  if (request.nextUrl.pathname.startsWith("/_next/static/")) return NextResponse.next();
  const nonce = btoa(crypto.randomUUID());
  const policy = securityPolicy(nonce, process.env.NODE_ENV === "development");
  const headers = new Headers(request.headers);
  headers.set("x-nonce", nonce);
  headers.set("Content-Security-Policy", policy);
  const response = NextResponse.next({ request: { headers } });
  response.headers.set("Content-Security-Policy", policy);
  response.headers.set("X-Content-Type-Options", "nosniff");
  response.headers.set("Referrer-Policy", "no-referrer");
  response.headers.set("Permissions-Policy", "camera=(), microphone=(), geolocation=()");
  return response;
}

// Files that a page loads for itself are handed out beside the proxy; whatever else is asked of them comes by here.
export const config = {
  matcher: [
    "/((?!_next/static|_next/image|icon.svg|api/).*)",
    {
      source: "/_next/static/:path*",
      missing: [{ type: "header", key: "sec-fetch-dest", value: "(script|style|font|image|worker)" }],
    },
  ],
};
