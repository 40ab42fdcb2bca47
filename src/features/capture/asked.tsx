import { formatQuantity } from "@/core/quantities";
import { roleUnit } from "@/core/measurement";
import { Button } from "@/ui/button";
import type { Capture } from "./capture";

/** Readings that can hardly be right, before they are kept: the most likely slip first. */
export function AskedBeforeTaking({ capture }: { readonly capture: Capture }) {
  const { asked } = capture;
  if (!asked) return null;
  const [first] = asked.questions;
  const meant =
    !capture.sets && first?.meant !== undefined && first.role
      ? formatQuantity(first.meant, roleUnit(first.role), { digits: 4 })
      : null;
  return (
    <div role="alert" className="border-l-4 border-misses pl-2" data-asked="">
      <p className="font-medium">Not recorded yet.</p>
      {asked.questions.map((q) => (
        <p key={q.code + (q.role ?? "")}>{q.message}</p>
      ))}
      <div className="mt-1 flex flex-wrap gap-2">
        {meant ? (
          <Button look="main" keyName="I" onClick={capture.takeAsMeant}>
            I meant {meant}
          </Button>
        ) : null}
        {asked.keepable ? (
          <Button keyName="R" onClick={capture.takeAsRead}>
            Record as read
          </Button>
        ) : null}
      </div>
    </div>
  );
}
