import type { ChartSpec } from "@/core/measurement";

const STYLED = [
  "fill",
  "stroke",
  "stroke-width",
  "stroke-dasharray",
  "fill-opacity",
  "opacity",
  "font-size",
  "font-family",
  "font-weight",
  "text-anchor",
] as const;

/** A chart as a file of its own: page colours and fonts are written into it, with its title and legend above. */
export function chartSvg(svg: SVGSVGElement, spec: ChartSpec): string {
  const copy = svg.cloneNode(true) as SVGSVGElement;
  const live = [svg, ...svg.querySelectorAll<SVGElement>("*")];
  const still = [copy, ...copy.querySelectorAll<SVGElement>("*")];
  live.forEach((el, i) => {
    const style = getComputedStyle(el);
    for (const name of STYLED) {
      const value = style.getPropertyValue(name);
      if (value) still[i]?.setAttribute(name, value);
    }
    still[i]?.removeAttribute("class");
    still[i]?.removeAttribute("style");
  });
  const { width, height } = svg.getBoundingClientRect();
  const head = 44;
  const page = getComputedStyle(document.documentElement);
  const color = (name: string) => page.getPropertyValue(name).trim();
  const legend = spec.series
    .map(
      (s, i) =>
        `<circle cx="${16 + i * 150}" cy="34" r="4" fill="${color(`--tone-${s.tone % 4}`)}"/><text x="${26 + i * 150}" y="38" font-size="12" fill="${color("--ink")}">${escape(s.label)}</text>`,
    )
    .join("");
  copy.setAttribute("x", "0");
  copy.setAttribute("y", String(head));
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height + head}" viewBox="0 0 ${width} ${height + head}" font-family="sans-serif"><rect width="100%" height="100%" fill="${color("--sheet")}"/><text x="12" y="19" font-size="15" font-weight="600" fill="${color("--ink")}">${escape(spec.title)}</text>${legend}${new XMLSerializer().serializeToString(copy)}</svg>`;
}

const escape = (s: string): string => s.replace(/&/g, "&amp;").replace(/</g, "&lt;");

/** Draws an SVG text at twice its size. */
export async function svgToPng(text: string): Promise<Blob> {
  const url = URL.createObjectURL(new Blob([text], { type: "image/svg+xml" }));
  try {
    const image = new Image();
    image.src = url;
    await image.decode();
    const canvas = document.createElement("canvas");
    canvas.width = image.width * 2;
    canvas.height = image.height * 2;
    const g = canvas.getContext("2d");
    if (!g) throw new Error("This browser can't draw the picture.");
    g.scale(2, 2);
    g.drawImage(image, 0, 0);
    return await new Promise<Blob>((resolve, reject) =>
      canvas.toBlob((b) => (b ? resolve(b) : reject(new Error("This browser can't write a PNG."))), "image/png"),
    );
  } finally {
    URL.revokeObjectURL(url);
  }
}
