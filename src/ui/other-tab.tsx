import { Button } from "./button";

/** Said where another tab writes a run: what is seen here, and the way to write on from here. */
export function OtherTab({ says, onTakeOver }: { readonly says: string; onTakeOver(): void }) {
  return (
    <p role="status" className="flex flex-wrap items-center gap-4 border-b border-rule bg-film px-4 py-2">
      {says}
      <Button onClick={onTakeOver}>Take over here</Button>
    </p>
  );
}
