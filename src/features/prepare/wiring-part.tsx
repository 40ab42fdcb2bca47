"use client";

import { useState } from "react";
import type { WiringSketch } from "@/core/procedures";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Wiring } from "@/ui/wiring";

/** The wiring beside the plan, and as large as the window for who stands at the bench. */
export function WiringPart({ sketch }: { readonly sketch: WiringSketch }) {
  const [large, setLarge] = useState(false);
  return (
    <>
      <Wiring sketch={sketch} />
      <p className="mt-2">
        <Button onClick={() => setLarge(true)}>Enlarge wiring</Button>
      </p>
      {large ? (
        <Dialog
          large
          title="Wiring"
          about="Connect each meter where it is drawn, and mind the notes below."
          onClose={() => setLarge(false)}
        >
          <Wiring sketch={sketch} large />
        </Dialog>
      ) : null}
    </>
  );
}
