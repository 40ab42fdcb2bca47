"use client";

import clsx from "clsx";
import { useLayoutEffect, useRef, useState } from "react";
import { formatParts, parseQuantity, unitSymbol, type Unit } from "@/core/quantities";
import { procedure } from "@/core/procedures";
import { roleLabel, roleUnit, type Point, type RoleReading, type Role } from "@/core/measurement";
import { readRole, unusedRoles, type RunDossier } from "@/notebook";
import { attempt } from "@/browser/notify";
import { NotRead, NotReadButton } from "@/ui/not-read";
import { play } from "@/browser/sound";
import { dwellWanted } from "./dwell";
import type { Capture } from "./capture";

/** Live values, the largest thing on the page: figures to be read from a metre away, or fields as large to type into. */
export function Readouts({ d, capture, writing }: { d: RunDossier; capture: Capture; writing: boolean }) {
  const p = procedure(d.run.procedure);
  if (!p) return null;
  const unused = unusedRoles(d);
  const roles = p.record.roles
    .map((r) => r.role)
    .filter((r) => !unused.has(r) && capture.proposal.given?.[r] === undefined);
  const optional = new Set<Role>(p.record.roles.flatMap((r) => (r.required ? [] : [r.role])));
  const cells = capture.live.reading?.cells ?? {};
  const typed = writing && !capture.sets;
  const point: Point = { id: "live", sequence: 0, settings: capture.settings, cells };
  const wanted = dwellWanted(d.run.setup);
  return (
    <>
      {typed && capture.proposal.kind !== "restart" ? (
        <TypedReadings
          key={d.points.length + d.withdrawn.length}
          d={d}
          capture={capture}
          roles={roles}
          optional={optional}
        />
      ) : (
        <div className="grid grid-cols-2 gap-x-5 gap-y-2">
          {roles.map((role) => (
            <Readout
              key={role}
              label={roleLabel(role)}
              cell={cells[role]}
              unit={roleUnit(role)}
              resolution={d.run.setup.instruments[role]?.resolution}
            />
          ))}
          <Dwell capture={capture} wanted={wanted} />
        </div>
      )}
      <div
        className={p.record.derived.length ? "mb-2 mt-2 grid grid-cols-2 gap-x-5 border-t border-rule pt-2" : "hidden"}
      >
        {p.record.derived.map((x) => {
          const v = x.of(point, d.run.setup);
          const f = v === null ? { number: "—", unit: unitSymbol(x.unit) } : formatParts(v, x.unit, { digits: 4 });
          return <Figure key={x.id} label={x.label} number={f.number} unit={f.unit} big={x.id === "efficiency"} />;
        })}
      </div>
    </>
  );
}

function Figure({
  label,
  number,
  unit,
  big,
  tone,
}: {
  label: string;
  number: string;
  unit: string;
  big?: boolean;
  tone?: string;
}) {
  return (
    <div>
      <p className="text-sm text-pencil">{label}</p>
      <p
        className={clsx("figures whitespace-nowrap leading-none", big ? "text-5xl" : "text-4xl", tone)}
        data-readout={label}
      >
        <span className="inline-block min-w-[5ch]">{number}</span>
        <span className="ml-1 text-xl text-pencil">{unit}</span>
      </p>
    </div>
  );
}

function Readout({
  label,
  cell,
  unit,
  resolution,
}: {
  label: string;
  cell: RoleReading | undefined;
  unit: Unit;
  resolution: number | undefined;
}) {
  if (!cell || cell.status === "empty" || cell.value === null)
    return <Figure label={label} number={cell?.status === "overload" ? "OL" : "—"} unit={unit} big />;
  // One unit and a fixed number of decimals, as on a meter: a prefix that changes would make the digits dance.
  const decimals = resolution && resolution > 0 ? Math.max(0, Math.round(-Math.log10(resolution))) : 3;
  return (
    <Figure label={label} number={cell.value.toFixed(Math.min(5, decimals)).replace("-", "\u2212")} unit={unit} big />
  );
}

function Dwell({ capture, wanted }: { capture: Capture; wanted: number }) {
  const { dwell, steady } = capture.live;
  const done = dwell >= wanted;
  return (
    <div>
      <p className="text-sm text-pencil">Dwell</p>
      <p className="figures text-2xl leading-tight">
        {Math.floor(Math.min(dwell, 999))} <span className="text-base text-pencil">of {wanted} s</span>
      </p>
      <p className="text-sm">
        {capture.sets
          ? `${steady ? "steady" : "moving"}${done ? ", counts" : ""}`
          : done
            ? "counts"
            : "too short to count as held"}
      </p>
    </div>
  );
}

/** What was typed for a role; null where it is no number. */
function readingTyped(role: Role, text: string): RoleReading | null {
  if (text.trim() === "") return { value: null, status: "empty" };
  if (/^ol$/i.test(text.trim())) return { value: null, status: "overload" };
  const r = parseQuantity(text, roleUnit(role));
  return r.ok ? { value: r.value.value, status: "ok" } : null;
}

/** Why a text is refused; null where it is not. */
function wrong(role: Role, text: string): string | null {
  if (text.trim() === "" || readingTyped(role, text)) return null;
  const r = parseQuantity(text, roleUnit(role));
  return r.ok ? null : r.error;
}

/** Texts of a point as they are typed; half-typed ones are kept, and the focus stands where typing goes on. */
function useTypedPoint(d: RunDossier, capture: Capture, roles: readonly Role[]) {
  const [texts, setTexts] = useState<Partial<Record<Role, string>>>(() => d.draft?.typed ?? {});
  const [retyped, setRetyped] = useState(capture.retyped);
  if (capture.retyped !== retyped) {
    setRetyped(capture.retyped);
    if (capture.retyped) setTexts({ ...texts, [capture.retyped.role]: capture.retyped.text });
  }
  const fields = useRef<(HTMLInputElement | null)[]>([]);
  const restored = useRef(false);
  const ready = capture.live.reading !== null;
  // Before the new row is painted: a key typed as it shows must not be lost between two fields.
  useLayoutEffect(() => {
    // A half-typed point comes back into the port once it is open.
    if (!ready || restored.current) return;
    restored.current = true;
    for (const role of roles) {
      const cell = readingTyped(role, texts[role] ?? "");
      if (cell && texts[role]) capture.enter(role, cell, texts);
    }
    fields.current[0]?.focus();
  });
  const layers = d.annotations.length;
  useLayoutEffect(() => {
    // After a note or a reason was laid over a point, typing goes on where it stopped.
    fields.current.find((f) => f && f.value === "")?.focus();
  }, [layers]);
  return {
    texts,
    place: (i: number) => (el: HTMLInputElement | null) => void (fields.current[i] = el),
    setUsed: (role: Role, used: boolean) => {
      capture.enter(role, { value: null, status: "empty" }, texts);
      void attempt(() => readRole(d, role, used));
    },
    onText: (role: Role, text: string) => {
      const next = { ...texts, [role]: text };
      setTexts(next);
      capture.enter(role, readingTyped(role, text) ?? { value: null, status: "empty" }, next);
    },
    onEnter: (i: number) => {
      const refused = (r: Role) => wrong(r, texts[r] ?? "") !== null;
      if (refused(roles[i] as Role)) return play("refused", capture.muted);
      const following = fields.current[i + 1];
      if (following) following.focus();
      else if (roles.some(refused)) play("refused", capture.muted);
      else capture.take();
    },
  };
}

/** Big fields in the order of the meters; Enter goes on, the last Enter takes the point. Half-typed points are kept. */
function TypedReadings({
  d,
  capture,
  roles,
  optional,
}: {
  d: RunDossier;
  capture: Capture;
  roles: readonly Role[];
  optional: ReadonlySet<Role>;
}) {
  const typed = useTypedPoint(d, capture, roles);
  const wanted = dwellWanted(d.run.setup);
  return (
    <div className="grid grid-cols-2 gap-x-5 gap-y-1">
      {roles.map((role, i) => (
        <TypedField
          key={role}
          role={role}
          text={typed.texts[role] ?? ""}
          place={typed.place(i)}
          optional={optional.has(role)}
          onText={(t) => typed.onText(role, t)}
          onEnter={() => typed.onEnter(i)}
          onNotRead={() => typed.setUsed(role, false)}
        />
      ))}
      {wanted ? <Dwell capture={capture} wanted={wanted} /> : null}
      <NotRead
        roles={[...optional].filter((r) => !roles.includes(r) && capture.proposal.given?.[r] === undefined)}
        onRead={(role) => typed.setUsed(role, true)}
      />
    </div>
  );
}

interface TypedFieldProps {
  readonly role: Role;
  readonly text: string;
  place(el: HTMLInputElement | null): void;
  readonly optional: boolean;
  onText(text: string): void;
  onEnter(): void;
  onNotRead(): void;
}

function TypedField({ role, text, place, optional, onText, onEnter, onNotRead }: TypedFieldProps) {
  const error = wrong(role, text);
  const parsed = text.trim() ? parseQuantity(text, roleUnit(role)) : null;
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <label id={`read-${role}-label`} htmlFor={`read-${role}`} className="text-sm text-pencil">
          {roleLabel(role)}
        </label>
        {optional && text === "" ? <NotReadButton labelId={`read-${role}-label`} onPress={onNotRead} /> : null}
      </div>
      <div
        className={clsx(
          "flex items-baseline border-b-2 outline-copper has-[:focus-visible]:outline-2 has-[:focus-visible]:outline-offset-0",
          error ? "border-misses" : "border-pencil focus-within:border-copper",
        )}
      >
        <input
          id={`read-${role}`}
          ref={place}
          // A time has letters of its own, which are no keys of the page: 1 h 27 min.
          data-number={roleUnit(role) === "s" ? undefined : ""}
          autoComplete="off"
          spellCheck={false}
          value={text}
          aria-invalid={error ? true : undefined}
          aria-describedby={`say-${role}`}
          onChange={(e) => onText(e.target.value)}
          onKeyDown={(e) => {
            if (e.key !== "Enter") return;
            e.preventDefault();
            onEnter();
          }}
          className="figures w-full min-w-0 bg-transparent text-4xl leading-tight outline-none"
        />
        <span className="text-xl text-pencil">{roleUnit(role)}</span>
      </div>
      <p
        id={`say-${role}`}
        className={clsx("min-h-5 pt-0.5 text-xs", error ? "text-misses" : "figures text-pencil")}
        aria-live="polite"
      >
        {error ?? (parsed?.ok ? `= ${parsed.value.echo}` : "")}
      </p>
    </div>
  );
}
