import { formatQuantity } from "@/core/quantities";
import { bayVoltages, planStation, stationQuestion, stationRemedies, type StationPlan } from "@/core/use/station";
import { Section } from "@/ui/section";
import { LaneFigure } from "./lane-figure";

const amps = (x: number): string => formatQuantity(x, "A", { digits: 3 });

/** The figures of a plan, as they are shown. */
function figuresOf(plan: StationPlan): readonly (readonly [label: string, value: string])[] {
  const a = planStation(stationQuestion(plan));
  return [
    ["Lanes, one supply each", String(a.lanes)],
    ["Bays per lane", String(a.baysPerLane)],
    ["Current of a bay, at most", amps(a.perBay)],
    ["Current of a lane", amps(a.laneCurrent)],
    ["All bays with margin", amps(a.supplyCurrent)],
    ["Breaker of a lane (DC)", a.breaker === null ? "none fits" : amps(a.breaker)],
    ["Far bay", formatQuantity(a.farBayVoltage, "V", { digits: 4 })],
    ["Heat of a bay, at most", formatQuantity(a.heatPerBay, "W", { digits: 3 })],
    ["Part temperature", formatQuantity(a.partTemperature, "°C", { digits: 3 })],
  ];
}

/** What a plan comes to: whether it works, its figures, the voltage along a lane; beside each figure what it was before, where it moved. */
export function PlanAnswer({ plan, before }: { readonly plan: StationPlan; readonly before?: StationPlan }) {
  const q = stationQuestion(plan);
  const a = planStation(q);
  const remedies = stationRemedies(q, a);
  const was = before ? figuresOf(before) : [];
  return (
    <>
      <Section mark="answer" title={remedies.length ? "It does not work as it is" : "It works"}>
        {remedies.length ? (
          <ul className="mb-3 max-w-prose list-disc pl-5 text-misses" aria-label="What does not work">
            {remedies.map((r) => (
              <li key={r}>{r}</li>
            ))}
          </ul>
        ) : null}
        <dl className="grid gap-x-8 gap-y-2 min-[560px]:grid-cols-3" data-testid="station">
          {figuresOf(plan).map(([label, value], k) => (
            <div key={label}>
              <dt className="text-sm text-pencil">{label}</dt>
              <dd className="figures text-lg">
                {value}
                {was[k] && was[k][1] !== value ? <span className="ml-2 text-sm text-pencil">was {was[k][1]}</span> : null}
              </dd>
            </div>
          ))}
        </dl>
      </Section>
      <Section mark="line" title="Voltage along a lane">
        <LaneFigure volts={bayVoltages(q.supply.volts, a.perBay, q.wire.segmentResistance, a.baysPerLane)} supply={q.supply.volts} minimum={q.minimumInput} />
        <p className="mt-3 max-w-prose text-sm text-pencil">Mains wiring is for a licensed electrician and the local code. Never leave charging cells unattended.</p>
      </Section>
    </>
  );
}
