"use client";

import "./globals.css";
import { Failed } from "./failed";

/** Stands in for the whole application where its shell could not be drawn. */
export default function AllFailed({ error }: { readonly error: Error }) {
  return (
    <html lang="en">
      <body>
        <main className="mx-auto max-w-[80rem] p-4">
          <Failed why={error.message} />
        </main>
      </body>
    </html>
  );
}
