"use client";

import { useEffect, useState } from "react";
import { formatQuantity, type Unit } from "@/core/quantities";
import { bayVoltages, planStation, stationRemedies, type StationAnswer, type StationQuestion } from "@/core/use";
import { NumberField } from "@/ui/number-field";
import { Section } from "@/ui/section";
import { LaneFigure } from "./lane-figure";

/** Ratings that small DC breakers are sold in, A. */
const BREAKERS = [2, 3, 4, 6, 10, 13, 16, 20, 25, 32, 40, 63];

/** The numbers of a station as fields: what each is called, its unit, what it begins with, what makes sense. */
interface StationField {
  readonly key: string;
  readonly label: string;
  readonly unit: Unit;
  readonly first: number;
  readonly low: number;
  readonly high: number;
  readonly whole?: true;
}
const field = (key: string, label: string, unit: Unit, first: number, low: number, high: number): StationField => ({ key, label, unit, first, low, high });

const GROUPS: readonly { readonly title: string; readonly fields: readonly StationField[] }[] = [
  {
    title: "The chargers",
    fields: [
      { ...field("bays", "Bays", "", 12, 1, 500), whole: true },
      field("chargeCurrent", "Charge current of a bay", "A", 0.5, 0.001, 20),
      field("currentTolerance", "give or take", "1", 0.08, 0, 0.9),
      field("quiescent", "Quiescent current", "A", 0.004, 0, 1),
      field("minimumInput", "Lowest input voltage", "V", 4.6, 0.5, 60),
      field("lowestCellVoltage", "Lowest cell voltage", "V", 3, 0, 5),
    ],
  },
  {
    title: "Supply and wire",
    fields: [
      field("volts", "Supply voltage", "V", 5.15, 0.5, 60),
      field("amps", "Supply gives", "A", 10, 0.1, 500),
      field("margin", "Margin", "1", 0.25, 0, 3),
      field("ampacity", "Wire carries", "A", 16, 0.1, 500),
      field("segmentResistance", "Wire from bay to bay, there and back", "Ω", 0.003, 0, 10),
    ],
  },
  {
    title: "Heat",
    fields: [field("ambient", "Ambient", "°C", 24, -40, 90), field("thermalResistance", "Thermal resistance of the part", "K/W", 38, 0, 500), field("foldbackTemperature", "It cuts its own current at", "°C", 95, 20, 200)],
  },
];
const FIRST = Object.fromEntries(GROUPS.flatMap((g) => g.fields.map((f) => [f.key, f.first])));

function questionOf(v: Readonly<Record<string, number>>): StationQuestion {
  const n = (key: string): number => v[key] ?? NaN;
  return {
    bays: n("bays"), chargeCurrent: n("chargeCurrent"), currentTolerance: n("currentTolerance"), quiescent: n("quiescent"), margin: n("margin"),
    supply: { volts: n("volts"), amps: n("amps") }, breakers: BREAKERS, wire: { ampacity: n("ampacity"), segmentResistance: n("segmentResistance") },
    minimumInput: n("minimumInput"), ambient: n("ambient"), thermalResistance: n("thermalResistance"), foldbackTemperature: n("foldbackTemperature"), lowestCellVoltage: n("lowestCellVoltage"),
  };
}

const refusal = (f: StationField) => (x: number): string | null =>
  f.whole && !Number.isInteger(x) ? "A whole number." : x < f.low || x > f.high ? `Between ${formatQuantity(f.low, f.unit)} and ${formatQuantity(f.high, f.unit)}.` : null;

/** Many chargers on one supply: lanes, breaker, the voltage along the line, heat, and what does not work. */
export function StationPage() {
  const [values, setValues] = useState<Readonly<Record<string, number>>>(FIRST);
  useEffect(() => {
    document.title = "Charging station · Nimbus Bench";
  }, []);
  const question = questionOf(values);
  const answer = planStation(question);
  return (
    <div className="sheet">
      <Section level={1} mark="station" title="Charging station">
        <p className="mb-3 text-pencil">Many chargers on one supply, all bays of a lane on one line.</p>
        {GROUPS.map((g) => (
          <fieldset key={g.title} className="mb-1">
            <legend className="mb-1 font-medium">{g.title}</legend>
            <div className="flex flex-wrap gap-x-5">
              {g.fields.map((f) => (
                <NumberField key={f.key} label={f.label} quantity={f.unit} value={f.first} refuse={refusal(f)} onValue={(x) => x !== null && setValues((all) => ({ ...all, [f.key]: x }))} />
              ))}
            </div>
          </fieldset>
        ))}
      </Section>
      <Answer question={question} answer={answer} />
    </div>
  );
}

function Answer({ question: q, answer: a }: { readonly question: StationQuestion; readonly answer: StationAnswer }) {
  const remedies = stationRemedies(q, a);
  const amps = (x: number): string => formatQuantity(x, "A", { digits: 3 });
  const figures: readonly (readonly [label: string, value: string])[] = [
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
          {figures.map(([label, value]) => (
            <div key={label}>
              <dt className="text-sm text-pencil">{label}</dt>
              <dd className="figures text-lg">{value}</dd>
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
