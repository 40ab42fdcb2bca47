import "@fontsource-variable/instrument-sans/wght.css";
import "@fontsource-variable/spline-sans-mono/wght.css";
import "./globals.css";
import type { Metadata, Viewport } from "next";
import { headers } from "next/headers";
import { connection } from "next/server";
import type { ReactNode } from "react";
import { Frame } from "./frame";

export const metadata: Metadata = {
  title: "Nimbus Bench",
  description: "Bench notebook for small lithium charger, protection and boost modules: plan, measure, work out, judge.",
};
export const viewport: Viewport = { width: "device-width", initialScale: 1 };

export default async function Layout({ children }: { children: ReactNode }) {
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
