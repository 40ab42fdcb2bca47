"use client";

import { create } from "qrcode";
import { useMemo } from "react";

/** A text as a square code that a phone or a scanner reads; the text itself is its name for whoever can't see it. */
export function CodeSquare({
  text,
  label,
  size,
}: {
  readonly text: string;
  readonly label: string;
  /** CSS length. */ readonly size: string;
}) {
  const { n, path } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: "M" });
    let d = "";
    for (let row = 0; row < modules.size; row++)
      for (let column = 0; column < modules.size; column++)
        if (modules.get(row, column)) d += `M${column} ${row}h1v1h-1z`;
    return { n: modules.size, path: d };
  }, [text]);
  // Two modules of quiet around it; always black on white, or no scanner reads it.
  return (
    <svg
      viewBox={`-2 -2 ${n + 4} ${n + 4}`}
      role="img"
      aria-label={label}
      shapeRendering="crispEdges"
      style={{ width: size, height: size, flex: "none" }}
    >
      <rect x={-2} y={-2} width={n + 4} height={n + 4} fill="#fff" />
      <path d={path} fill="#000" />
    </svg>
  );
}
