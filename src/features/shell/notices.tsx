"use client";

import { useEffect } from "react";
import { Toaster } from "sonner";
import { noticesStand } from "@/browser/notify";

/** Where notices appear; drawn like a slip of paper, out of the way of the figures. */
export function Notices() {
  useEffect(noticesStand, []);
  return (
    <Toaster
      position="bottom-right"
      style={{ fontFamily: "inherit" }}
      toastOptions={{
        unstyled: true,
        classNames: {
          toast: "flex w-full items-start gap-3 border border-ink bg-sheet p-3 text-sm text-ink",
          title: "font-medium",
          actionButton: "ml-auto whitespace-nowrap underline underline-offset-4",
          error: "border-misses",
          icon: "hidden",
        },
      }}
      closeButton={false}
      visibleToasts={4}
    />
  );
}
