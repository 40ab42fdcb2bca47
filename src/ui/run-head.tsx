import { Checkbox } from "./checkbox";
import { Link } from "./link";
import { useLayoutEffect, type ReactNode } from "react";
import { Button } from "./button";
import { Select } from "./select";

export interface RunHeadProps {
  readonly title: string;
  readonly board: { readonly id: string; readonly title: string };
  /** How far it is, in words. */
  readonly count: ReactNode;
  readonly countId?: string;
  /** The simulated bench's clock, where there is one. */
  readonly clock?: { readonly pace: number; readonly of: readonly number[]; onPace(factor: number): void } | null;
  readonly tones?: { readonly on: boolean; onTones(on: boolean): void };
  readonly keys: { readonly on: boolean; onKeys(on: boolean): void };
  /** The run whose result so far may be looked at. */
  readonly resultOf?: string;
}

const Tick = ({ label, on, onTick }: { readonly label: string; readonly on: boolean; onTick(on: boolean): void }) => (
  <Checkbox checked={on} onChecked={onTick}>
    {label}
  </Checkbox>
);

/** The one line over a run that is under way: what it is, how far, and what of it can be switched. */
export function RunHead({ title, board, count, countId, clock, tones, keys, resultOf }: RunHeadProps) {
  return (
    <div className="flex flex-wrap items-baseline gap-x-4 border-b border-rule px-4 py-1.5 text-sm">
      <h1 className="font-semibold">{title}</h1>
      <Link href={`/board/${board.id}`} className="underline underline-offset-4">
        {board.title}
      </Link>
      <span className="figures text-pencil" data-testid={countId}>
        {count}
      </span>
      <span className="ml-auto flex flex-wrap items-center gap-4">
        {clock ? (
          <Select
            label="Bench clock"
            value={String(clock.pace)}
            onValue={(pace) => clock.onPace(Number(pace))}
            choices={clock.of.map((f) => ({ value: String(f), label: `× ${f}` }))}
          />
        ) : null}
        {tones ? <Tick label="tones" on={tones.on} onTick={tones.onTones} /> : null}
        <Tick label="single keys" on={keys.on} onTick={keys.onKeys} />
        {resultOf ? (
          <Link href={`/run/${resultOf}/review`} className="underline underline-offset-4">
            Result so far
          </Link>
        ) : null}
      </span>
    </div>
  );
}

/** A stop rule that was met: why, what to disconnect first, and the way on once it is safe. */
export function StopAlert({
  why,
  act,
  onSafe,
}: {
  readonly why: string;
  readonly act: string | undefined;
  readonly onSafe: (() => void) | null;
}) {
  // Whoever says that it is safe goes on where they were.
  useLayoutEffect(() => {
    const before = document.activeElement;
    return () => {
      // Once the alert has gone: its button may be what holds the focus now.
      setTimeout(() => {
        if (
          before instanceof HTMLElement &&
          before.isConnected &&
          (document.activeElement === null || document.activeElement === document.body)
        )
          before.focus();
      }, 0);
    };
  }, []);
  return (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-4 border-b-4 border-misses bg-misses/10 px-4 py-3 text-lg"
    >
      <strong className="text-misses">Stop. {why}</strong> <span>{act}</span>
      {onSafe ? (
        <Button keyName="G" onClick={onSafe}>
          Clear stop
        </Button>
      ) : null}
    </div>
  );
}
