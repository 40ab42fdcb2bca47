"use client";

import { Link } from "@/ui/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { CHEMISTRY_LIMITS, rejection } from "@/core/cells";
import type { CellRecord, RunRecord } from "@/core/files/records";
import { formatQuantity, formatRoughly } from "@/core/quantities";
import { accuraciesFor, metersPinned, plannedCell, rangeRemarks, readWith, type RunSetup } from "@/core/procedures";
import { CHARGE_METERS } from "@/core/rehearsal/charge-log";
import { simulatedMeters } from "@/core/rehearsal/meters";
import { CHARGE_ROLES, chargeCycle, checkChargePlan, forecastFor, predictCharge, type ChargePlan } from "@/core/procedures/charge-cycle";
import { SIMULATED_CHARGERS, type SimulatedChargerId } from "@/core/simulator/charge-boards";
import { attempt } from "@/session/notify";
import { playAll } from "@/session/sound";
import { change, edit, drawer, keepCell, startedNow, useLive, withMeters } from "@/storage";
import { AccuraciesStated, AccuracyTable } from "@/ui/accuracy-table";
import { Button } from "@/ui/button";
import { CellDialog } from "@/ui/cell-dialog";
import { NumberField } from "@/ui/number-field";
import { Quiet, Section } from "@/ui/section";
import { Wiring } from "@/ui/wiring";
import { NotToBeCharged } from "./cell-choice";
import { CautionList, StopRuleList } from "./cautions";
import { ProgrammeHelper } from "./programme-helper";
import type { Loaded } from "./loaded";
import { SourceChoice } from "./source-choice";
import { StartPanel } from "./start-panel";
import { Predicted } from "./predicted";
import { RemarkList } from "./remark-list";

const positive = (v: number) => (v > 0 ? null : "Enter a value above zero.");
const notNegative = (v: number) => (v >= 0 ? null : "Enter zero or more.");

/** Everything before a charge, top to bottom: cell, charger, what will happen, wiring, cautions, start. */
export function ChargePrepare({ run, board, rig: storedRig, choices }: Loaded) {
  const router = useRouter();
  const [setup, setSetup] = useState(run.setup as RunSetup<ChargePlan>);
  const [rig, setRig] = useState(storedRig);
  const [charger, setCharger] = useState<SimulatedChargerId | null>(() => (board.simulatedAs && board.simulatedAs in SIMULATED_CHARGERS ? (board.simulatedAs as SimulatedChargerId) : null));
  const [checked, setChecked] = useState<ReadonlySet<string>>(new Set());
  const [bad, setBad] = useState<ReadonlySet<string>>(new Set());
  const [cellId, setCellId] = useState<string | null>(null);
  const [writing, setWriting] = useState<CellRecord | "new" | null>(null);
  const [busy, setBusy] = useState(false);
  /** Raised when a resistor was chosen, so that the field of the current shows what it gives. */
  const [soldered, setSoldered] = useState(0);
  const cells = useLive(`drawer-${run.notebookId}`, () => drawer(run.notebookId));
  const { plan } = setup;
  // Packs are charged behind a board of their own; what was rejected is charged no more.
  const fit = cells.state === "ready" ? cells.value.cells.filter(({ cell }) => !cell.rejected && (cell.series ?? 1) === 1) : [];
  if (!plan) return <Quiet>This version can&apos;t prepare this run.</Quiet>;
  const full: RunSetup<ChargePlan> = { ...setup, instruments: accuraciesFor([...CHARGE_ROLES, "cellTemperature"], { ...rig.instruments }) };
  const put = (patch: Partial<ChargePlan>) => setSetup((s) => ({ ...s, plan: { ...(s.plan as ChargePlan), ...patch } }));
  const condition = (patch: RunSetup["conditions"]) => setSetup((s) => ({ ...s, conditions: { ...s.conditions, ...patch } }));
  /** Takes what a field understood; while one can't be read, nothing starts. */
  const field = (name: string, apply: (v: number) => void) => (v: number | null) => {
    setBad((b) => (v === null ? new Set([...b, name]) : new Set([...b].filter((x) => x !== name))));
    if (v !== null) apply(v);
  };
  const take = (cell: CellRecord) => {
    setCellId(cell.id);
    if (cells.state !== "ready") return;
    put({ cell: plannedCell(cell, cells.value.rules), startVoltage: null });
    condition({ cellCapacity: cell.capacity });
  };
  const remarks = checkChargePlan(full);
  const forecast = forecastFor(full);
  const cautions = chargeCycle.cautions(full);
  const refused = remarks.some((r) => r.severity === "refused");
  const start = () => {
    setBusy(true);
    playAll(["phase", "cut-back", "input-low", "no-current", "done", "stop"], false);
    if (typeof Notification !== "undefined" && Notification.permission === "default") void Notification.requestPermission().catch(() => undefined);
    void attempt(async () => {
      const next: RunRecord = { ...(await startedNow({ ...run, setup: withMeters((charger ? { ...full, instruments: simulatedMeters(CHARGE_ROLES, full.instruments, CHARGE_METERS) } : full) as RunSetup, rig) })), ...(plan.cell?.id ? { cellId: plan.cell.id } : {}), source: charger ? { kind: "simulated", board: charger, seed: Math.floor(Math.random() * 2 ** 31) } : { kind: "typed" } };
      await change(`start ${run.title}`, [edit(run, next), ...(rig === storedRig ? [] : [edit(storedRig, rig)])]);
      router.push(`/run/${run.id}/log`);
    }).finally(() => setBusy(false));
  };
  return (
    <div className="sheet">
      <Section level={1} mark="prepare" title={`${chargeCycle.title}: ${board.title}`} aside={<Link href={`/board/${board.id}`} className="underline underline-offset-4">Back to board</Link>}>
        <p className="max-w-prose text-pencil">The charge is predicted before anything is connected.</p>
      </Section>
      <Section mark="cell" title="Cell">
        {cells.state !== "ready" ? null : (
          <>
            <ul className="mb-3 flex flex-wrap gap-3">
              {fit.map(({ cell: c, triage }) => (
                <li key={c.id}>
                  <label className={`inline-flex items-center gap-2 border px-3 py-1.5 ${cellId === c.id ? "border-ink bg-field" : "border-pencil/60"}`}>
                    <input type="radio" name="cell" checked={cellId === c.id} disabled={rejection(triage) !== null} onChange={() => take(c)} className="size-4 accent-(--copper)" />
                    {c.title} <span className="figures text-sm text-pencil">{formatQuantity(c.capacity, "Ah")}, {CHEMISTRY_LIMITS[c.chemistry].label}</span>
                    <Button look="bare" className="text-sm" onClick={() => setWriting(c)} aria-label={`Edit ${c.title}`}>
                      change
                    </Button>
                  </label>
                  <NotToBeCharged cell={c} triage={triage} />
                </li>
              ))}
            </ul>
            <Button look={fit.length ? "plain" : "main"} onClick={() => setWriting("new")}>
              Add cell
            </Button>
            {writing ? (
              <CellDialog
                cell={writing === "new" ? null : writing}
                rules={cells.value.rules}
                onClose={() => setWriting(null)}
                onKeep={(facts) => attempt(async () => take(await keepCell(writing === "new" ? null : writing, facts, run.notebookId)))}
              />
            ) : null}
          </>
        )}
        {plan.cell ? (
          <div className="mt-3">
            <NumberField key={cellId} label="Cell voltage now, rested and not connected" quantity="V" value={plan.startVoltage} onValue={(startVoltage) => put({ startVoltage })} />
          </div>
        ) : null}
      </Section>
      <Section mark="charger" title="Charger">
        <fieldset className="mb-2">
          <legend className="mb-1 text-sm text-pencil">Type of charger</legend>
          {(["linear", "switching"] as const).map((kind) => (
            <label key={kind} className="mr-6 inline-flex items-center gap-2">
              <input type="radio" name="kind" checked={(plan.charger ?? "linear") === kind} onChange={() => put({ charger: kind })} className="size-4 accent-(--copper)" />
              {kind === "linear" ? "linear: the rest becomes heat in the part" : "switching: with a coil, at an efficiency"}
            </label>
          ))}
        </fieldset>
        <div className="flex flex-wrap gap-x-5">
          {plan.charger === "switching" ? <NumberField label="Efficiency, claimed or estimated" quantity="1" value={plan.efficiency ?? 0.88} refuse={(v) => (v > 0.3 && v <= 1 ? null : "Between 30 % and 100 %.")} onValue={field("efficiency", (v) => put({ efficiency: v }))} /> : null}
          <NumberField key={soldered} label="Charge current set" quantity="A" value={setup.conditions.programmedCurrent ?? null} refuse={positive} onValue={field("programmedCurrent", (v) => condition({ programmedCurrent: v }))} />
          <NumberField label="Full voltage" quantity="V" value={plan.fullVoltage} refuse={positive} onValue={field("fullVoltage", (v) => put({ fullVoltage: v }))} />
          <NumberField label="Lowest input voltage" quantity="V" value={plan.leastInput} refuse={positive} onValue={field("leastInput", (v) => put({ leastInput: v }))} />
          <NumberField label="Supply set to" quantity="V" value={plan.supplyVoltage} refuse={positive} onValue={field("supplyVoltage", (v) => put({ supplyVoltage: v }))} />
          <NumberField label="Supply current limit" quantity="A" value={plan.supplyLimit} refuse={positive} onValue={field("supplyLimit", (v) => { put({ supplyLimit: v }); setRig((r) => ({ ...r, supplyCurrentLimit: v })); })} />
          <NumberField label="Input cable, both wires" quantity="Ω" value={plan.cable} refuse={notNegative} onValue={field("cable", (v) => put({ cable: v }))} />
          <NumberField label="Ambient" quantity="°C" value={setup.conditions.ambientTemperature ?? 22} onValue={field("ambientTemperature", (v) => condition({ ambientTemperature: v }))} />
          <NumberField label="Thermal resistance of the part" quantity="K/W" value={plan.thermalResistance} refuse={positive} onValue={field("thermalResistance", (v) => put({ thermalResistance: v }))} />
        </div>
        {plan.cell ? <ProgrammeHelper cell={plan.cell} drawer={rig.drawer.map((r) => r.ohms)} onCurrent={(amps) => { field("programmedCurrent", (v) => condition({ programmedCurrent: v }))(amps); setSoldered((n) => n + 1); }} /> : null}
      </Section>
      <Section mark="prediction" title="Prediction">
        <RemarkList remarks={[...remarks, ...rangeRemarks({ ...full, meters: metersPinned(full.instruments, rig) } as RunSetup)]} />
        {forecast ? (
          <dl className="flex flex-wrap gap-x-8 gap-y-2">
            {forecast.phases.map((ph) => (
              <div key={ph.name}>
                <dt className="text-sm text-pencil">{ph.name}</dt>
                <dd className="figures text-xl">{formatRoughly(ph.seconds)}</dd>
              </div>
            ))}
            <div>
              <dt className="text-sm text-pencil">total, about</dt>
              <dd className="figures text-xl font-semibold">{formatRoughly(forecast.total)}</dd>
            </div>
            <div>
              <dt className="text-sm text-pencil">charge delivered</dt>
              <dd className="figures text-xl">{formatQuantity(forecast.charge, "Ah", { digits: 3 })}</dd>
            </div>
            <div>
              <dt className="text-sm text-pencil">hottest, after {formatRoughly(forecast.heat.at)}</dt>
              <dd className="figures text-xl">
                {formatQuantity(forecast.heat.watts, "W", { digits: 2 })}, part at {formatQuantity(forecast.heat.temperature, "°C", { digits: 2 })}
              </dd>
            </div>
            <div>
              <dt className="text-sm text-pencil">supply current</dt>
              <dd className="figures text-xl">
                {formatQuantity(forecast.supply.amps, "A", { digits: 3 })} at {formatQuantity(forecast.supply.leastVoltage, "V", { digits: 3 })}
              </dd>
            </div>
          </dl>
        ) : null}
        <Predicted curves={predictCharge(full)} />
      </Section>
      <Section mark="bench" title="Readings and instruments">
        <SourceChoice
          simulated={charger}
          offered={SIMULATED_CHARGERS}
          what="charger"
          byHand="I type readings from my own meters"
          onSource={(c) => {
            setCharger(c as SimulatedChargerId | null);
            if (c === null) field("every", () => undefined)(plan.every);
          }}
        >
          <NumberField label="One sample every" quantity="s" value={plan.every} refuse={(v) => (v >= 0.01 && v <= 600 ? null : "Between 10 ms and 10 min.")} onValue={field("every", (v) => put({ every: v }))} />
        </SourceChoice>
        <details className="mb-3">
          <summary className="font-medium">
            Accuracy of the meters <AccuraciesStated roles={CHARGE_ROLES} instruments={full.instruments} />
          </summary>
          <div className="mt-2 overflow-x-auto">
            <AccuracyTable roles={CHARGE_ROLES} instruments={full.instruments} meters={metersPinned(full.instruments, rig)} choices={choices} onAccuracy={(role, a, meter) => setRig((r) => readWith(r, role, a, meter))} />
          </div>
        </details>
      </Section>
      <Section mark="wire" title="Wiring">
        <Wiring sketch={chargeCycle.wiring(full)} />
      </Section>
      <Section mark="before you connect" title="Cautions and stop rules">
        <CautionList cautions={cautions} />
        <div className="flex flex-wrap gap-x-5">
          <NumberField label="Part temperature limit" quantity="°C" value={plan.partLimit} onValue={field("partLimit", (v) => put({ partLimit: v }))} />
          <NumberField label="Cell temperature limit" quantity="°C" value={plan.cellLimit} onValue={field("cellLimit", (v) => put({ cellLimit: v }))} />
          <NumberField label="Time limit" quantity="" value={plan.timeLimit / 3600} refuse={positive} onValue={field("timeLimit", (v) => put({ timeLimit: 3600 * v }))} />
        </div>
        <StopRuleList rules={chargeCycle.stopRules(full)} />
      </Section>
      <StartPanel label="Start the log" onStart={start} cautions={cautions} checked={checked} onChecked={setChecked} busy={busy} unread={bad.size > 0} refused={refused} ready="All tones sound once at the start." />
    </div>
  );
}
