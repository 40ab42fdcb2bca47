import "@fontsource-variable/instrument-sans/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import "./globals.css";
import mono from "@fontsource-variable/spline-sans-mono/files/spline-sans-mono-latin-wght-normal.woff2";
import sans from "@fontsource-variable/instrument-sans/files/instrument-sans-latin-wght-normal.woff2";
import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import { connection } from "next/server";
import type { ReactNode } from "react";
import { preload } from "react-dom";
import { Frame } from "./frame";

export const metadata: Metadata = {
  title: "Nimbus Bench",
  description:
    "Bench notebook for small lithium charger, protection and boost modules: plan, measure, work out, judge.",
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function Layout({ children }: { children: ReactNode }) {
  // The browser would ask for them only once something is written in them.
  for (const face of [sans, mono]) preload(face, { as: "font", type: "font/woff2", crossOrigin: "anonymous" });
  await connection();
  const nonce = (await headers()).get("x-nonce") ?? "";
  return (
    <html lang="en" suppressHydrationWarning>
      <body>
        <Frame nonce={nonce} demo={process.env.NIMBUS_DEMO === "1"}>
          {children}
        </Frame>
      </body>
    </html>
  );
}
