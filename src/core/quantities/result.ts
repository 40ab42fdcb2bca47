/** What users can cause comes back as a value, never as an exception. */
export type Result<T, E = string> =
  { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: E };

export const ok = <T>(value: T): { readonly ok: true; readonly value: T } => ({ ok: true, value });
export const err = <E>(error: E): { readonly ok: false; readonly error: E } => ({ ok: false, error });

/** For what only a bug can cause. */
export function assert(condition: unknown, message: string): asserts condition {
  if (!condition) throw new Error(`internal: ${message}`);
}
