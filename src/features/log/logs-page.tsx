"use client";

import { useCallback, useEffect, useState } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { RunRecord } from "@/core/files/records";
import { readingsOf } from "@/core/procedures/catalogue";
import { formatQuantity } from "@/core/quantities";
import { useSession } from "@/browser/context";
import { play } from "@/browser/sound";
import { useWakeLock } from "@/browser/wake-lock";
import { runsOf, useLive } from "@/storage";
import { Checkbox } from "@/ui/checkbox";
import { FormNumber } from "@/ui/form-fields";
import { positive } from "@/ui/refusals";
import { Quiet, Section } from "@/ui/section";
import { LogTile, type TileNews } from "./log-tile";

/** Every log that is under way, on one screen: each goes on here, with its phase, its time left and its alarms. */
export function LogsPage() {
  const { notebook } = useSession();
  const live = useLive(`logs-${notebook.id}`, async () =>
    (await runsOf(notebook.id))
      .filter((r) => r.state === "open" && readingsOf(r.procedure) === "trace")
      .sort((a, b) => a.startUtc.localeCompare(b.startUtc)),
  );
  useEffect(() => {
    document.title = "Logs under way · Nimbus Bench";
  }, []);
  if (live.state === "loading") return <Quiet>Loading …</Quiet>;
  if (live.state === "failed") return <Quiet>The logs can&apos;t be loaded: {live.message}</Quiet>;
  return <Logs runs={live.value} />;
}

/** What the logs say, by their runs; those that ended are left out. */
function useNews(runs: readonly RunRecord[]) {
  const [news, setNews] = useState<ReadonlyMap<string, TileNews>>(new Map());
  const tell = useCallback(
    (id: string, n: TileNews) => setNews((all) => (sameNews(all.get(id), n) ? all : new Map(all).set(id, n))),
    [],
  );
  return { all: runs.flatMap((r) => news.get(r.id) ?? []), tell };
}
const sameNews = (a: TileNews | undefined, b: TileNews): boolean =>
  a !== undefined && a.input === b.input && a.alarm === b.alarm && a.title === b.title;

function Logs({ runs }: { readonly runs: readonly RunRecord[] }) {
  const { all, tell } = useNews(runs);
  const [muted, setMuted] = useState(false);
  const { control } = useForm<{ plug: number | null }>({ defaultValues: { plug: null } });
  const plug = useWatch({ control, name: "plug" });
  useWakeLock(runs.length > 0);
  const inputs = all.flatMap((n) => n.input ?? []);
  const sum = inputs.reduce((s, x) => s + x, 0);
  const over = plug !== null && sum > plug;
  const alarm = all.find((n) => n.alarm);
  useEffect(() => {
    if (over) play("input-low", muted);
  }, [over, muted]);
  useEffect(() => {
    document.title = alarm
      ? `${alarm.alarm}: ${alarm.title}`
      : over
        ? "Shared plug overloaded · Nimbus Bench"
        : "Logs under way · Nimbus Bench";
  }, [alarm, over]);
  return (
    <>
      <div className="sheet">
        <Section
          level={1}
          mark="logs"
          title="Logs under way"
          aside={
            <Checkbox checked={!muted} onChecked={(on) => setMuted(!on)}>
              Sound
            </Checkbox>
          }
        >
          {runs.length === 0 ? (
            <p className="text-pencil">
              No log is under way. Start a charge, or any other log, from its board; several are shown here side by
              side.
            </p>
          ) : (
            <div className="flex flex-wrap items-end gap-x-6">
              <p className="mb-5" data-testid="shared">
                <span className="block text-sm text-pencil">
                  Inputs together{inputs.length < all.length ? `, ${inputs.length} of ${all.length} known` : ""}
                </span>
                <span className={`figures text-3xl ${over ? "font-semibold text-misses" : ""}`}>
                  {inputs.length ? formatQuantity(sum, "A", { digits: 3 }) : "not stated"}
                </span>
                {over ? (
                  <span className="ml-3 text-misses">! more than the plug gives: move a board to another one</span>
                ) : null}
              </p>
              <FormNumber control={control} name="plug" label="The shared plug gives" quantity="A" refuse={positive} />
            </div>
          )}
        </Section>
      </div>
      {runs.length ? (
        <div className="mt-4 grid border border-b-0 border-rule bg-sheet min-[900px]:grid-cols-2">
          {runs.map((r) => (
            <LogTile key={r.id} id={r.id} muted={muted} onNews={tell} />
          ))}
        </div>
      ) : null}
    </>
  );
}
