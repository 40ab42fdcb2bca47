/** The style sheet that the notice package inserts, and the empty one it begins with; a test keeps the first true. */
export const NOTICE_STYLE_HASH = "sha256-StEaX+se6YS7pqjzrzMIA0KaX9zF/8zAhvQXZAe5epY=";
export const EMPTY_STYLE_HASH = "sha256-47DEQpj8HBSa+/TImW+5JCeuQeRkm5NMpJWZG3hSuFU=";

/** The page's Content-Security-Policy for one response. Development needs eval, a socket and inline styles besides. */
export function securityPolicy(nonce: string, development: boolean): string {
  const parts = [
    "default-src 'none'",
    `script-src 'nonce-${nonce}' 'strict-dynamic'${development ? " 'unsafe-eval'" : ""}`,
    development
      ? "style-src 'self' 'unsafe-inline'"
      : `style-src-elem 'self' 'nonce-${nonce}' '${NOTICE_STYLE_HASH}' '${EMPTY_STYLE_HASH}'`,
    ...(development ? [] : ["style-src-attr 'none'", `style-src 'self' 'nonce-${nonce}'`]),
    "img-src 'self' data: blob:",
    "font-src 'self'",
    `connect-src 'self'${development ? " ws:" : ""}`,
    "worker-src 'self'",
    "manifest-src 'self'",
    "object-src 'none'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ];
  return parts.join("; ");
}
