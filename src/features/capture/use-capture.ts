"use client";

import { highest } from "@/core/quantities";
import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from "react";
import { impossibleReadings, procedure, type Remark, type StopRule, ofPoints } from "@/core/procedures";
import {
  withReadings,
  type Point,
  type PointSettings,
  type RoleReading,
  type Recovery,
  type Role,
} from "@/core/measurement";
import type { PointId, PointRecord } from "@/core/files/records";
import { isSteady, SILENT, TypedPort, UNCONFIRMED, watchRestart, type InstrumentPort, type PortReading } from "@/ports";
import { attempt, notify } from "@/browser/notify";
import { play } from "@/browser/sound";
import { closeColumn, correctReadings, countPointAgain, leavePointOut, noteRestart, type RunDossier } from "@/notebook";
import { change, newId, now, StorageError } from "@/storage";
import type { Asked, Capture, LiveState } from "./capture";
import { dwellWanted } from "./dwell";
import { usePort } from "./use-port";

const NOTHING: PortReading = { cells: {}, time: 0 };

/** A point's cells as they were first read. */
const firstRead = (p: Point): Point["cells"] => ({
  ...p.cells,
  ...Object.fromEntries((p.corrected ?? []).map((c) => [c.role, c.from])),
});

const isTyped = (p: InstrumentPort | null): p is TypedPort => p instanceof TypedPort;

/** Whether a new reading would draw the same figures: nothing is drawn again for those. */
const looksSame = (shown: LiveState, r: PortReading, dwell: number, steady: boolean): boolean =>
  shown.reading !== null &&
  shown.steady === steady &&
  Math.floor(shown.dwell) === Math.floor(dwell) &&
  JSON.stringify(shown.reading.cells) === JSON.stringify(r.cells);

/** One capture session: the port, what it shows, the proposal, and every act that a key can do. */
// eslint-disable-next-line max-lines-per-function -- one state machine: what is proposed, set, read, asked and stored hold each other, and none is used by itself
export function useCapture(d: RunDossier, writing: boolean): Capture {
  const p = ofPoints(procedure(d.run.procedure));
  if (!p?.next || !p.check) throw new Error(`internal: ${d.run.procedure} takes no points`);
  const { next, check } = p;
  const { port, error } = usePort(d, writing);
  const [live, setLive] = useState<LiveState>({ reading: null, dwell: 0, steady: false });
  const [override, setOverride] = useState<PointSettings | null>(null);
  /** What was said of a point; shown once that point is. */
  const [said, setSaid] = useState<{ readonly point: string; readonly remarks: readonly Remark[] } | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [retyped, setRetyped] = useState<Capture["retyped"]>(null);
  const [stopped, setStopped] = useState<StopRule | null>(null);
  /** The point whose reading raised the stop; null where the live readings did. */
  const stoppedBy = useRef<string | null>(null);
  const [auto, setAuto] = useState(false);
  const [muted, setMuted] = useState(false);
  const [pace, setPaceState] = useState(1);
  const [busy, setBusy] = useState(false);
  const [silent, setSilent] = useState<string | null>(null);
  const [settingAgain, setSettingAgain] = useState(false);
  const history = useRef<PortReading[]>([]);
  const settledAt = useRef<number | null>(null);
  const acting = useRef(false);
  const polling = useRef(false);
  /** The collapse whose restart was noted last: until that shows, it is not noted again. */
  const notedFor = useRef<string | null>(null);
  /** How many points there were when the last one was taken: until it shows, the same key takes no second one. */
  const takenAt = useRef<number | null>(null);

  /** A point that the browser had no room for. */
  const [held, setHeld] = useState<PointRecord | null>(null);
  const draftTimer = useRef<ReturnType<typeof setTimeout> | null>(null);
  /** The id of the point that is being typed, given once: a slow look at what was stored must not make a second half-typed point. */
  const upcoming = useRef<PointId | null>(null);
  const saveDraft = useRef<() => void>(() => undefined);

  const last = d.points[d.points.length - 1];
  /** The last point, unless a newer one was taken that does not show yet: acts must not hit the one before it. */
  const lastShown = (): Point | null => (last && takenAt.current !== d.points.length ? last : null);

  const proposal = useMemo(
    () => next(d.run.setup, d.points, d.corrections),
    [next, d.run.setup, d.points, d.corrections],
  );
  const settings = override ?? proposal.settings;
  const settingsKey = JSON.stringify([proposal.kind, settings, d.points.length]);
  /** What may do harm is neither set nor taken before somebody has confirmed it, for these settings and this point alone. */
  const [confirmed, setConfirmed] = useState<string | null>(null);
  const unconfirmed = proposal.confirm !== undefined && confirmed !== settingsKey;

  /** Acts one at a time; a key pressed meanwhile is passed over rather than queued. */
  const act = useCallback(async (run: () => Promise<unknown>): Promise<boolean> => {
    if (acting.current) return false;
    acting.current = true;
    // Most acts are over before anyone could see a button go grey and come back.
    const slow = setTimeout(() => setBusy(true), 150);
    const good = await attempt(run);
    clearTimeout(slow);
    acting.current = false;
    setBusy(false);
    return good;
  }, []);

  // The bench is set as proposed. A restart leaves the load as it is: whoever watches takes it off.
  const apply = useEffectEvent(async () => {
    history.current = [];
    settledAt.current = null;
    if (port && unconfirmed) await port.safe();
    else if (port && proposal.kind === "point" && !stopped) await port.apply(settings);
    settledAt.current = port ? (await port.read()).time : null;
  });
  // A stop that is cleared sets the bench by what is proposed then, which the undone point may have changed.
  useEffect(() => {
    if (!port) return;
    void apply()
      .catch((e: Error) => void notify(e.message, { kind: "error" }))
      .finally(() => setSettingAgain(false));
  }, [port, settingsKey, unconfirmed, stopped]);

  const watchStops = (r: PortReading): StopRule | null =>
    (p.stopRules?.(d.run.setup) ?? []).find((rule) => {
      const v = r.cells[rule.role]?.value;
      return (
        typeof v === "number" &&
        ((rule.above !== undefined && v > rule.above) || (rule.below !== undefined && v < rule.below))
      );
    }) ?? null;

  /** Load and supply off; where the bench does not confirm it, somebody has to. */
  const makeSafe = (otherwise: string | null) =>
    port?.safe().catch(() => setSilent(otherwise ? `${otherwise} ${UNCONFIRMED}` : UNCONFIRMED));
  const stop = (rule: StopRule, by: string | null) => {
    stoppedBy.current = by;
    setStopped(rule);
    setAuto(false);
    play("stop", muted);
    void makeSafe(null);
  };
  const wentSilent = () => {
    setAuto(false);
    if (silent) return;
    setSilent(SILENT);
    play("stalled", muted);
    void makeSafe(SILENT);
  };

  const wentSilentNow = useEffectEvent(wentSilent);
  const poll = useEffectEvent(async () => {
    if (!port || stopped || polling.current) return;
    polling.current = true;
    const r = await port.read().finally(() => (polling.current = false));
    if (silent) {
      setSilent(null);
      // It was told to switch off: what is proposed is set anew.
      await apply();
    }
    history.current = [...history.current.slice(-39), r];
    const dwell = settledAt.current === null ? 0 : Math.max(0, r.time - settledAt.current);
    const steady = !isTyped(port) && isSteady(history.current);
    setLive((shown) => (looksSame(shown, r, dwell, steady) ? shown : { reading: r, dwell, steady }));
    if (!isTyped(port)) {
      const rule = watchStops(r);
      if (rule) stop(rule, null);
    }
    if (!auto || acting.current || unconfirmed || isTyped(port)) return;
    if (proposal.kind === "done") setAuto(false);
    else if (proposal.kind === "restart") watch();
    else if (steady && dwell >= dwellWanted(d.run.setup)) take();
  });
  useEffect(() => {
    if (!port) return;
    const id = setInterval(() => void poll().catch(() => wentSilentNow()), 120);
    return () => clearInterval(id);
  }, [port]);

  const taken = (
    cells: PointRecord["cells"],
    of: PointSettings,
    dwell: number | undefined,
    id: string,
    sequence: number,
  ): PointRecord => {
    const at = now();
    const draft = d.draft;
    return {
      kind: "point",
      id: id as PointId,
      notebookId: d.run.notebookId,
      createdAt: draft?.id === id ? draft.createdAt : at,
      updatedAt: at,
      runId: d.run.id,
      sequence,
      state: "taken",
      settings: of,
      cells,
      takenAt: at,
      ...(dwell !== undefined ? { dwell: Number(dwell.toFixed(2)) } : {}),
    };
  };
  const nextSequence = (): number =>
    highest([-1, ...d.points.map((x) => x.sequence), ...d.withdrawn.map((x) => x.sequence)]) + 1;

  const upcomingId = (): PointId => (upcoming.current ??= d.draft?.id ?? (newId() as PointId));

  const questionsOf = (point: Point): Remark[] => {
    const own = check(point, d.run.setup, d.points, d.corrections).filter((r) => r.ask);
    // Leads that were swapped on purpose read below zero; what was proposed says nothing of other settings.
    const general = impossibleReadings(point.cells, override ? {} : proposal.expect).filter(
      (g) => !(point.settings.reversed && g.code === "negative"),
    );
    return [...own, ...general.filter((g) => !own.some((o) => o.role === g.role))];
  };

  function take(asRead = false): void {
    if (takenAt.current === d.points.length) return;
    // What was half typed is about to be a point: it must not be kept as half typed after that.
    if (draftTimer.current) clearTimeout(draftTimer.current);
    draftTimer.current = null;
    void act(async () => {
      if (!port || stopped) return;
      if (silent || settingAgain) throw new Error(silent ?? "The bench is being set. Wait a moment.");
      if (proposal.kind === "restart") throw new Error("First enter what restored the output.");
      if (unconfirmed) throw new Error("Confirm the next step first.");
      const r = await port.read();
      const required = p?.record.roles.filter((x) => x.required && proposal.given?.[x.role] === undefined) ?? [];
      if (required.every((x) => r.cells[x.role]?.status === undefined)) {
        play("refused", muted);
        throw new Error("No readings yet. Type the meter readings first.");
      }
      const dwell = settledAt.current === null ? 0 : Math.max(0, r.time - settledAt.current);
      const given = Object.fromEntries(
        Object.entries(proposal.given ?? {}).map(([role, value]) => [role, { value, status: "ok" as const }]),
      );
      const record = taken({ ...r.cells, ...given }, settings, dwell, upcomingId(), nextSequence());
      const point: Point = {
        id: record.id,
        sequence: record.sequence,
        settings: record.settings,
        cells: record.cells,
        ...(record.dwell !== undefined ? { dwell: record.dwell } : {}),
      };
      const questions = questionsOf(point);
      const keepable = !questions.some((x) => x.severity === "stop");
      if (questions.length && !(asRead && keepable)) {
        setAsked({ questions, keepable });
        setAuto(false);
        play("refused", muted);
        // What was typed is kept as half typed while the question stands.
        draftTimer.current = setTimeout(() => saveDraft.current(), 350);
        return;
      }
      setAsked(null);
      const remarks = check(point, d.run.setup, d.points, d.corrections);
      await change(`record point ${d.points.length + 1}`, [record]).catch((e: unknown) => {
        // What can't be stored stays in the fields, and can be saved to a file.
        if (e instanceof StorageError && e.full) setHeld(record);
        throw e;
      });
      setHeld(null);
      takenAt.current = d.points.length;
      upcoming.current = null;
      setSaid({ point: record.id, remarks });
      setOverride(null);
      if (isTyped(port)) port.clear();
      play(
        remarks.some((x) => x.code === "collapse")
          ? "collapse"
          : remarks.some((x) => x.severity === "doubt")
            ? "refused"
            : "taken",
        muted,
      );
      const rule = watchStops(r);
      if (rule) stop(rule, record.id);
    });
  }

  function takeAsMeant(): void {
    const first = asked?.questions[0];
    if (!isTyped(port) || first?.role === undefined || first.meant === undefined) return;
    port.enter(first.role, { value: first.meant, status: "ok" });
    setRetyped({ role: first.role, text: String(first.meant) });
    setAsked(null);
    take();
  }

  /** The bench comes back on before anything is read as a point. */
  const clearStop = (): void => {
    stoppedBy.current = null;
    setStopped(null);
    setSettingAgain(true);
  };

  function recovered(word: Recovery): void {
    if (proposal.kind !== "restart" || !last) return;
    void act(async () => {
      await noteRestart(d, last.id, word);
      setSaid(null);
    });
  }

  function watch(): void {
    if (!port || isTyped(port) || proposal.kind !== "restart" || !last || notedFor.current === last.id) return;
    void act(async () => {
      // Where nobody stated one, back means back at what the output gave before.
      const nominal =
        d.run.setup.conditions.nominalOutput ?? highest(d.points.map((x) => x.cells.outputVoltage?.value ?? 0));
      const word = await watchRestart(
        port,
        nominal,
        (last.cells.outputVoltage?.value ?? 0) < 0.1 * nominal,
        () => new Promise((r) => setTimeout(r, 60)),
      );
      await noteRestart(d, last.id, word);
      notedFor.current = last.id;
      setSaid(null);
    });
  }

  const enter = (role: Role, cell: RoleReading, typed: Readonly<Partial<Record<Role, string>>>): void => {
    if (!isTyped(port)) return;
    port.enter(role, cell);
    setAsked(null);
    const save = () => {
      draftTimer.current = null;
      if (acting.current || takenAt.current === d.points.length) return;
      const at = now();
      const draft: PointRecord = {
        kind: "point",
        id: upcomingId(),
        notebookId: d.run.notebookId,
        createdAt: d.draft?.createdAt ?? at,
        updatedAt: at,
        runId: d.run.id,
        sequence: nextSequence(),
        state: "draft",
        settings,
        cells: {},
        typed,
      };
      void attempt(() => change("half-typed point", [draft], { journal: false }));
    };
    saveDraft.current = save;
    // From the first key that is not stored, not the last: whoever types on and on loses no more than that.
    draftTimer.current ??= setTimeout(() => saveDraft.current(), 350);
  };
  useEffect(() => {
    // A page that is put away keeps what was typed up to then.
    const leave = () => {
      if (!draftTimer.current) return;
      clearTimeout(draftTimer.current);
      saveDraft.current();
    };
    window.addEventListener("pagehide", leave);
    document.addEventListener("visibilitychange", leave);
    return () => {
      window.removeEventListener("pagehide", leave);
      document.removeEventListener("visibilitychange", leave);
    };
  }, []);
  useEffect(
    () => () => {
      // Back, Forward and any other way out of this page too.
      if (draftTimer.current) {
        clearTimeout(draftTimer.current);
        saveDraft.current();
      }
    },
    [],
  );

  return {
    proposal,
    settings,
    live: live.reading || !port ? live : { ...live, reading: NOTHING },
    asked,
    held,
    retyped,
    remarks: said && last?.id === said.point ? said.remarks : [],
    stopped,
    auto,
    muted,
    pace,
    busy,
    portError: error,
    silent,
    settingAgain,
    sets: port?.abilities.sets ?? d.run.source.kind === "simulated",
    canPace: port?.pace !== undefined,
    unconfirmed,
    confirm: () => setConfirmed(settingsKey),
    setOverride,
    setAuto,
    setMuted,
    setPace: (factor) => {
      setPaceState(factor);
      void port?.pace?.(factor);
    },
    take: () => take(),
    takeAsRead: () => asked && take(true),
    takeAsMeant,
    correct: (pointId, anew, why) =>
      act(async () => {
        const point = d.points.find((x) => x.id === pointId);
        if (!point) return;
        await correctReadings(d, pointId, anew, why);
        const now = withReadings(
          point,
          Object.entries(anew).map(([role, value]) => ({ role: role as Role, value: value ?? null, why })),
        );
        setSaid({
          point: pointId,
          remarks: check(
            now,
            d.run.setup,
            d.points.filter((x) => x.sequence < point.sequence),
            d.corrections,
          ),
        });
        if (stoppedBy.current === pointId && !watchStops({ cells: now.cells, time: 0 })) clearStop();
      }),
    lastShown,
    undo: () => {
      const target = lastShown();
      if (!target) return;
      void act(async () => {
        const record = taken(firstRead(target), target.settings, target.dwell, target.id, target.sequence);
        const notes = d.annotations.filter((a) => a.target === target.id).map((gone) => ({ gone }));
        await change(`undo point ${d.points.length}`, [{ ...record, state: "withdrawn" }, ...notes]);
        takenAt.current = null;
        setSaid(null);
        setAsked(null);
        if (stoppedBy.current === target.id) clearStop();
      });
    },
    leaveOut: (pointId, reason) => act(() => leavePointOut(d, pointId, reason)),
    count: (pointId) => act(() => countPointAgain(d, pointId)),
    recovered,
    watch,
    closeColumn: () => {
      const column = proposal.column;
      if (column) void act(() => closeColumn(d, column));
    },
    clearStop,
    enter,
    addPasted: (rows) =>
      act(async () => {
        const first = nextSequence();
        await change(
          `paste ${rows.length} points`,
          rows.map((r, i) => taken(r.cells, r.settings, undefined, newId(), first + i)),
        );
      }),
  };
}
