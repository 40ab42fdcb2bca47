"use client";

import { useEffect, useEffectEvent, useState } from "react";
import { procedure } from "@/core/procedures";
import { SIMULATED_BOARDS, type SimulatedBoardId } from "@/core/simulator/boards";
import { GuardedPort, openSimulatedBench, TypedPort, type InstrumentPort } from "@/ports";
import type { RunDossier } from "@/notebook";

const seconds = (): number => performance.now() / 1000;

/** Opens the port that the run was started with and closes it again. */
export function usePort(d: RunDossier, writing: boolean): { port: InstrumentPort | null; error: string | null } {
  const [opened, setOpened] = useState<{ port: InstrumentPort | null; error: string | null }>({
    port: null,
    error: null,
  });
  const { source, setup } = d.run;
  const key = `${d.run.id}|${writing}`;
  const roles = procedure(d.run.procedure)?.record.roles.map((r) => r.role) ?? [];
  const open = useEffectEvent(async (): Promise<InstrumentPort> => {
    if (source.kind !== "simulated") return new TypedPort(roles, seconds);
    if (!(source.board in SIMULATED_BOARDS)) throw new Error(`This version has no simulated board “${source.board}”.`);
    return new GuardedPort(
      await openSimulatedBench({
        board: source.board as SimulatedBoardId,
        seed: source.seed,
        inputLeadResistance: setup.conditions.inputLeadResistance ?? 0,
        outputLeadResistance: setup.conditions.outputLeadResistance ?? 0,
        done: [...d.points, ...d.withdrawn].map((x) => x.settings),
      }),
    );
  });
  useEffect(() => {
    if (!writing) return;
    let gone = false;
    let mine: InstrumentPort | null = null;
    open().then(
      (p) => {
        if (gone) p.close();
        else {
          mine = p;
          setOpened({ port: p, error: null });
        }
      },
      (e: Error) => !gone && setOpened({ port: null, error: e.message }),
    );
    return () => {
      gone = true;
      mine?.close();
      setOpened({ port: null, error: null });
    };
  }, [key, writing]);
  return opened;
}
