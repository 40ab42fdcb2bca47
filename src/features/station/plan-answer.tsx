import type { ReactNode } from "react";
import { formatQuantity } from "@/core/quantities";
import {
  bayVoltages,
  planStation,
  stationDoubts,
  stationQuestion,
  stationRanges,
  stationRemedies,
  type Range,
  type StationPlan,
} from "@/core/use/station";
import { Section } from "@/ui/section";
import { LaneFigure } from "./lane-figure";

const amps = (x: number): string => formatQuantity(x, "A", { digits: 3 });

type Shown = readonly [label: string, value: string, range?: string];

/** The figures of a plan, as they are shown; what the tolerances of its inputs leave open beside them. */
function figuresOf(plan: StationPlan): readonly Shown[] {
  const a = planStation(stationQuestion(plan));
  const r = stationRanges(plan);
  const figure = (
    label: string,
    value: number,
    unit: "A" | "V" | "W" | "°C",
    digits: number,
    [low, high]: Range,
  ): Shown => {
    const text = (x: number) => formatQuantity(x, unit, { digits });
    return [label, text(value), text(low) === text(high) ? undefined : `${text(low)} to ${text(high)}`] as Shown;
  };
  return [
    ["Lanes, one supply each", String(a.lanes)],
    ["Bays per lane", String(a.baysPerLane)],
    figure("Current of a bay, at most", a.perBay, "A", 3, r.perBay),
    figure("Current of a lane, at most", a.laneCurrent, "A", 3, r.laneCurrent),
    ["All bays with margin", amps(a.supplyCurrent)],
    ["Breaker of a lane (DC)", a.breaker === null ? "none fits" : amps(a.breaker)],
    figure("Far bay", a.farBayVoltage, "V", 4, r.farBayVoltage),
    figure("Heat of a bay, at most", a.heatPerBay, "W", 3, r.heatPerBay),
    figure("Part temperature", a.partTemperature, "°C", 3, r.partTemperature),
  ];
}

/** What a plan comes to: whether it works, its figures, the voltage along a lane; beside each figure what it was before, where it moved. */
export function PlanAnswer({
  plan,
  before,
  aside,
}: {
  readonly plan: StationPlan;
  readonly before?: StationPlan;
  readonly aside?: ReactNode;
}) {
  const q = stationQuestion(plan);
  const a = planStation(q);
  const remedies = stationRemedies(q, a);
  const doubts = stationDoubts(plan);
  const was = before ? figuresOf(before) : [];
  return (
    <>
      <Section
        mark="answer"
        title={remedies.length ? "It does not work as it is" : doubts.length ? "It may not work" : "It works"}
        aside={aside}
      >
        {remedies.length ? (
          <ul className="mb-3 max-w-prose list-disc pl-5 text-misses" aria-label="What does not work">
            {remedies.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        ) : null}
        {doubts.length ? (
          <ul className="mb-3 max-w-prose list-disc pl-5 text-close" aria-label="What may not work">
            {doubts.map((d) => (
              <li key={d}>{d}</li>
            ))}
          </ul>
        ) : null}
        <dl className="grid gap-x-8 gap-y-2 min-[560px]:grid-cols-3" data-testid="station">
          {figuresOf(plan).map(([label, value, range], k) => (
            <div key={label}>
              <dt className="text-sm text-pencil">{label}</dt>
              <dd className="figures text-lg">
                {value}
                {range ? <span className="ml-2 whitespace-nowrap text-sm text-pencil">{range}</span> : null}
                {was[k] && was[k][1] !== value ? (
                  <span className="block whitespace-nowrap text-sm text-pencil">was {was[k][1]}</span>
                ) : null}
              </dd>
            </div>
          ))}
        </dl>
      </Section>
      <Section mark="line" title="Voltage along a lane">
        <LaneFigure
          volts={bayVoltages(q.supply.volts, a.perBay, q.wire.segmentResistance, a.baysPerLane)}
          supply={q.supply.volts}
          minimum={q.minimumInput}
        />
        <p className="mt-3 max-w-prose text-sm text-pencil">
          Mains wiring is for a licensed electrician and the local code. Never leave charging cells unattended.
        </p>
      </Section>
    </>
  );
}
