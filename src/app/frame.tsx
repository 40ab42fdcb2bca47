"use client";

import dynamic from "next/dynamic";
import type { ReactNode } from "react";

// The data lives in the browser, so the interface is drawn there only.
const Shell = dynamic(() => import("@/features/shell/shell").then((m) => m.Shell), { ssr: false });

export function Frame({ nonce, demo, children }: { nonce: string; demo: boolean; children: ReactNode }) {
  return (
    <Shell nonce={nonce} demo={demo}>
      {children}
    </Shell>
  );
}
