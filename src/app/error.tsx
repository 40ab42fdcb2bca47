"use client";

import { Failed } from "./failed";

export default function PageFailed({ error }: { readonly error: Error }) {
  return <Failed why={error.message} />;
}
