import type { BoardMark, ClaimRow } from "@/core/compare";
import { Link } from "@/ui/link";
import { VERDICT_TONE, VerdictShape } from "@/ui/verdict-mark";
import type { VerdictWord } from "@/core/verdicts";

const ORDER: readonly VerdictWord[] = [
  "meets",
  "misses",
  "too close to call",
  "not fairly tested",
  "claim unclear",
  "not measured",
];
/** Boards named of one verdict; of more their number is given. */
const NAMED = 12;

/** A claim of words, or of yes and no: the boards that meet it, that miss it, and so on, by name. */
export function WordsRow({
  row,
  names,
  picked,
}: {
  readonly row: ClaimRow;
  readonly names: ReadonlyMap<string, string>;
  readonly picked: string | null;
}) {
  return (
    <div
      role="group"
      aria-label={row.label}
      className="flex flex-wrap items-baseline gap-x-5 border-b border-rule py-1 text-sm [content-visibility:auto]"
    >
      <span className="w-48 px-4 leading-tight">{row.label}</span>
      {ORDER.map((word) => {
        const own = row.marks.filter((m) => m.word === word);
        return own.length ? (
          <span key={word} className="inline-flex flex-wrap items-center gap-x-2">
            <span className={`inline-flex items-center gap-1 font-medium ${VERDICT_TONE[word]}`}>
              <VerdictShape word={word} />
              {word}
            </span>
            {own.length > NAMED ? <span className="figures">{own.length}</span> : null}
            {(own.length > NAMED ? own.filter((m) => m.boardId === picked) : own).map((m) => (
              <Named
                key={m.boardId + m.claimId}
                m={m}
                name={names.get(m.boardId) ?? ""}
                strong={m.boardId === picked}
              />
            ))}
          </span>
        ) : null;
      })}
    </div>
  );
}

const Named = ({ m, name, strong }: { readonly m: BoardMark; readonly name: string; readonly strong: boolean }) => (
  <Link
    href={`/board/${m.boardId}/claim/${m.claimId}`}
    title={[m.value && `measured ${m.value}`, `claimed ${m.claim}`].filter(Boolean).join(", ")}
    className={`underline decoration-pencil/60 underline-offset-4 ${strong ? "font-semibold" : ""}`}
  >
    {name}
  </Link>
);
