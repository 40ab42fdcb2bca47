import type { WaveformModel } from "../simulator/waveform";
import type { BoardFunction, ConditionSpecs } from "../characteristics";
import type { ClaimReading, ClaimSource, Limit } from "../claims";
import type { Facts, Need } from "../need";
import type { Load } from "../use/load";
import type { Role } from "../measurement";
import type { SimulatedBoardId, SimulatedButtonsId, SimulatedChargerId } from "../simulator";

/** The volunteers of a nature reserve pick power boards for their field sound recorders. Everything here is invented. */
export interface DemoBoard {
  readonly title: string;
  readonly note: string;
  /** Price in euros, size in m. */
  readonly facts: Facts;
  readonly functions: readonly BoardFunction[];
  readonly simulatedAs: SimulatedBoardId;
  readonly claims: readonly {
    readonly source: Omit<ClaimSource, "date">;
    readonly readings: readonly ClaimReading[];
  }[];
  readonly samples: readonly { readonly name: string; readonly configuration: string; readonly note: string }[];
  /** Charges on the simulated bench, in their order. */
  readonly charges?: readonly {
    readonly title: string;
    readonly sample: number;
    readonly charger: SimulatedChargerId;
    readonly seed: number;
    readonly startVoltage: number;
    /** V of the supply. */ readonly input?: number;
    /** Name of the drawer's cell; the first where nothing is said. */ readonly cell?: string;
  }[];
  /** A checklist, tried on the simulated bench. */
  readonly behaviour?: { readonly title: string; readonly sample: number; readonly buttons: SimulatedButtonsId };
  /** A reversal, of a sample that may die. */
  readonly reversal?: { readonly title: string; readonly sample: number; readonly seed: number };
  /** Waveforms of its output, from an oscilloscope. */
  readonly waveforms?: readonly ({
    readonly title: string;
    readonly sample: number;
    readonly seed: number;
    /** V and A that it was taken at. */ readonly battery: number;
    readonly load: number;
  } & Pick<WaveformModel, "sawtooth" | "spike" | "hertz" | "rises">)[];
  /** Done signals of several chargers on one cell, over so many charges. */
  readonly channels?: {
    readonly title: string;
    readonly sample: number;
    readonly charger: SimulatedChargerId;
    readonly repeats: number;
  };
  /** Cells read on the day and days later, in a table of its own. */
  readonly rest?: { readonly title: string; readonly sample: number };
  /** Load sweeps, oldest first: typed as they were read, unless they were played on the simulated bench; `meter` is one that shows a share of what is there. */
  readonly sweeps?: readonly {
    readonly title: string;
    readonly sample: number;
    readonly seed: number;
    readonly most?: number;
    /** The load that it starts into is searched too. */ readonly starts?: true;
    readonly supplyLimit?: number;
    readonly leftOut?: { readonly at: number; readonly why: string };
    readonly simulated?: true;
    readonly meter?: { readonly role: Role; readonly shows: number };
  }[];
}

const reading = (characteristic: string, limit: Limit, conditions: ConditionSpecs = {}): ClaimReading => ({
  characteristic,
  limit,
  conditions,
});
const nominal = (value: number, relative: number | null): Limit => ({
  kind: "nominal",
  nominal: value,
  tolerance: relative === null ? null : { kind: "relative", value: relative },
});

const within = (value: number, absolute: number): Limit => ({
  kind: "nominal",
  nominal: value,
  tolerance: { kind: "absolute", value: absolute },
});

export const DEMO_BOARDS: readonly DemoBoard[] = [
  {
    title: "Sedge 51",
    facts: { price: 1.4, length: 0.038, width: 0.022, height: 0.006 },
    note: "Small green board with a USB-C input, sold in bags of five. For the hide by the reed bed.",
    functions: ["charger", "protection", "boost"],
    simulatedAs: "steady-synchronous",
    claims: [
      {
        source: { kind: "listing", wording: "Output 5 V ±2 %" },
        readings: [reading("boost.no-load-voltage", nominal(5, 0.02))],
      },
      {
        source: { kind: "listing", wording: "Output current up to 1.3 A" },
        readings: [reading("boost.max-current", { kind: "at-least", low: 1.3 })],
      },
      {
        source: { kind: "listing", wording: "Efficiency up to 93.5 %" },
        readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.935 })],
      },
      {
        source: { kind: "print on the board", wording: "discharge 1.8A" },
        readings: [
          reading("boost.input-current-limit", { kind: "at-least", low: 1.8 }),
          reading("boost.max-current", { kind: "at-least", low: 1.8 }),
        ],
      },
      {
        source: { kind: "data sheet", wording: "Load regulation < 3 %" },
        readings: [reading("boost.load-regulation", { kind: "at-most", high: 0.03 })],
      },
      {
        source: { kind: "data sheet", wording: "Standby current 150 µA max." },
        readings: [reading("standby.current", { kind: "at-most", high: 1.5e-4 }, { state: { word: "no-load" } })],
      },
      {
        source: { kind: "listing", wording: "With over-discharge protection" },
        readings: [reading("protect.over-discharge-present", { kind: "yes-no", value: true })],
      },
      {
        source: { kind: "data sheet", wording: "VDD 2.9 V ±80 mV, VCU 4.28 V ±50 mV" },
        readings: [reading("protect.over-discharge-voltage", within(2.9, 0.08))],
      },
      {
        source: { kind: "data sheet", wording: "VDD 2.9 V ±80 mV, VCU 4.28 V ±50 mV" },
        readings: [reading("protect.over-charge-voltage", within(4.28, 0.05))],
      },
      {
        source: { kind: "listing", wording: "Short circuit protection" },
        readings: [reading("protect.short-present", { kind: "yes-no", value: true })],
      },
      {
        source: { kind: "data sheet", wording: "Light load detection 38 mA ±25 %, 27 s" },
        readings: [reading("standby.auto-off-current", nominal(0.038, 0.25))],
      },
      {
        source: { kind: "listing", wording: "1 A charging" },
        readings: [reading("charge.cc-current", nominal(1, null))],
      },
      {
        source: { kind: "print on the board", wording: "RED charging, GREEN full" },
        readings: [
          reading(
            "behaviour.response",
            { kind: "one-of", words: ["red"] },
            { action: { word: "lights while charging" } },
          ),
        ],
      },
      {
        source: { kind: "print on the board", wording: "RED charging, GREEN full" },
        readings: [
          reading("behaviour.response", { kind: "one-of", words: ["green"] }, { action: { word: "lights when full" } }),
        ],
      },
      {
        source: { kind: "listing", wording: "works with every USB-C cable" },
        readings: [
          reading(
            "behaviour.response",
            { kind: "one-of", words: ["yes"] },
            { action: { word: "charges from a C-to-C cable" } },
          ),
        ],
      },
      {
        source: { kind: "listing", wording: "reverse connection protection" },
        readings: [reading("reverse.survived", { kind: "yes-no", value: true })],
      },
    ],
    charges: [{ title: "Charge from USB-C", sample: 0, charger: "honest-ampere", seed: 61, startVoltage: 3.18 }],
    behaviour: { title: "Button, lights, gauge and cables", sample: 0, buttons: "steady-synchronous" },
    reversal: { title: "Spare board, cell reversed", sample: 1, seed: 77 },
    samples: [
      { name: "A", configuration: "jumper J1 open", note: "First out of the bag." },
      { name: "B", configuration: "jumper J1 open", note: "Spare." },
    ],
    sweeps: [
      { title: "Rehearsal on the simulated bench", sample: 0, seed: 12, simulated: true },
      {
        title: "Load sweep",
        sample: 0,
        seed: 11,
        starts: true,
        leftOut: { at: 9, why: "clip slipped off OUT+ while reading" },
      },
    ],
  },
  {
    title: "Marl 15",
    facts: { price: 0.6, length: 0.025, width: 0.018, height: 0.005 },
    note: "Claims a lot for its size. Wanted for the two-microphone recorder. Its first sweep was measured with an ammeter that reads low.",
    functions: ["charger", "protection", "boost"],
    simulatedAs: "weak-switch",
    claims: [
      {
        source: { kind: "listing", wording: "5V 1.5A OUTPUT!" },
        readings: [reading("boost.max-current", { kind: "at-least", low: 1.5 })],
      },
      {
        source: { kind: "listing", wording: "output 5V" },
        readings: [reading("boost.no-load-voltage", nominal(5, null))],
      },
      {
        source: { kind: "listing", wording: "efficiency 96%" },
        readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.96 })],
      },
      {
        source: { kind: "listing", wording: "stays cool, below 40°C" },
        readings: [reading("heat.steady-temperature", { kind: "at-most", high: 40 })],
      },
      {
        source: { kind: "data sheet", wording: "VOUT accuracy ±1 %" },
        readings: [reading("boost.no-load-voltage", nominal(5, 0.01))],
      },
      {
        source: { kind: "listing", wording: "full protection: over discharge, short" },
        readings: [reading("protect.over-discharge-present", { kind: "yes-no", value: true })],
      },
      {
        source: { kind: "listing", wording: "full protection: over discharge, short" },
        readings: [reading("protect.short-present", { kind: "yes-no", value: true })],
      },
      {
        source: { kind: "listing", wording: "USB-C, all cables" },
        readings: [
          reading(
            "behaviour.response",
            { kind: "one-of", words: ["yes"] },
            { action: { word: "charges from a C-to-C cable" } },
          ),
        ],
      },
    ],
    samples: [{ name: "A", configuration: "", note: "" }],
    behaviour: { title: "Button, lights and gauge", sample: 0, buttons: "weak-switch" },
    reversal: { title: "Cell reversed, after all else", sample: 0, seed: 84 },
    sweeps: [
      { title: "Load sweep with the old ammeter", sample: 0, seed: 24, meter: { role: "batteryCurrent", shows: 0.9 } },
      { title: "Load sweep", sample: 0, seed: 23, starts: true },
    ],
  },
  {
    title: "Tarn 9",
    facts: { price: 2.2, length: 0.042, width: 0.024, height: 0.009 },
    note: "Rectifies with a diode. Half way through its sweep.",
    functions: ["boost"],
    simulatedAs: "diode-rectifier",
    claims: [
      {
        source: { kind: "listing", wording: "5.3 V ±3 % for long cables" },
        readings: [reading("boost.no-load-voltage", nominal(5.3, 0.03))],
      },
      {
        source: { kind: "listing", wording: "max. 1 A" },
        readings: [reading("boost.max-current", { kind: "at-least", low: 1 })],
      },
      {
        source: { kind: "data sheet", wording: "Efficiency 90 % (3.6 V, 0.5 A)" },
        readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.9 }, { battery: { at: 3.6 } })],
      },
    ],
    samples: [{ name: "A", configuration: "", note: "Leads soldered on." }],
    sweeps: [{ title: "Load sweep", sample: 0, seed: 5, most: 22, simulated: true }],
  },
  {
    title: "Alder 12",
    facts: { price: 3.1, length: 0.052, width: 0.033, height: 0.012 },
    note: "Its first sweep ran from a small supply that limited before the board did; its first charge used a thin cable.",
    functions: ["charger", "protection", "boost"],
    simulatedAs: "hiccup-limit",
    claims: [
      {
        source: { kind: "listing", wording: "1.2 A continuous" },
        readings: [reading("boost.max-current", { kind: "at-least", low: 1.2 })],
      },
      {
        source: { kind: "data sheet", wording: "VOUT 5.00 V ±1.5 %" },
        readings: [reading("boost.no-load-voltage", nominal(5, 0.015))],
      },
      {
        source: { kind: "listing", wording: "ripple < 50 mV" },
        readings: [reading("boost.ripple", { kind: "at-most", high: 0.05 }, { battery: { at: 3.6 } })],
      },
      {
        source: { kind: "listing", wording: "Input 4.5 V to 5.5 V" },
        readings: [reading("charge.input-minimum", { kind: "at-most", high: 4.5 })],
      },
      {
        source: { kind: "listing", wording: "1000 mA charger" },
        readings: [reading("charge.cc-current", nominal(1, 0.05))],
      },
      {
        source: { kind: "data sheet", wording: "VBAT 4.2 V ±0.9 %" },
        readings: [reading("charge.cv-voltage", nominal(4.2, 0.009))],
      },
      {
        source: { kind: "listing", wording: "charges to precisely 4.2 V (±0.25 %)" },
        readings: [reading("charge.cv-voltage", nominal(4.2, 0.0025))],
      },
      {
        source: { kind: "data sheet", wording: "Output overcurrent 2.6 A ±15 %" },
        readings: [reading("protect.over-current", nominal(2.6, 0.15))],
      },
      {
        source: { kind: "listing", wording: "short-proof" },
        readings: [reading("protect.short-present", { kind: "yes-no", value: true })],
      },
    ],
    samples: [{ name: "A", configuration: "jumpers as delivered", note: "" }],
    waveforms: [
      {
        title: "Ripple at half an ampere",
        sample: 0,
        seed: 78,
        battery: 3.6,
        load: 0.5,
        sawtooth: 0.024,
        spike: 0.012,
        hertz: 640e3,
        rises: 0.62,
      },
    ],
    charges: [
      { title: "Charge on the long cable", sample: 0, charger: "thin-cable", seed: 41, startVoltage: 3.31 },
      { title: "Charge from 4.5 V", sample: 0, charger: "honest-ampere", seed: 62, startVoltage: 3.35, input: 4.48 },
      { title: "Charge on a short cable", sample: 0, charger: "honest-ampere", seed: 42, startVoltage: 2.84 },
    ],
    sweeps: [{ title: "Load sweep, small supply", sample: 0, seed: 31, supplyLimit: 1.5 }],
  },
  {
    title: "Peat Duo",
    facts: { price: 2.7, length: 0.046, width: 0.03, height: 0.008 },
    note: "Two outputs in one. Still in its bag.",
    functions: ["charger", "protection", "boost", "power-path"],
    simulatedAs: "steady-synchronous",
    claims: [
      {
        source: { kind: "listing", wording: "Dual output 5V/2A" },
        readings: [reading("boost.max-current", { kind: "at-least", low: 2 })],
      },
      {
        source: { kind: "listing", wording: "Dual output 5V/2A" },
        readings: [reading("boost.no-load-voltage", nominal(5, null))],
      },
      {
        source: { kind: "listing", wording: "1A fast charge" },
        readings: [reading("charge.cc-current", nominal(1, null))],
      },
      {
        source: { kind: "listing", wording: "up to 94 % efficient" },
        readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.94 })],
      },
    ],
    samples: [{ name: "A", configuration: "", note: "" }],
  },
  {
    title: "Willow Sun",
    facts: { price: 1.9, length: 0.04, width: 0.026, height: 0.007 },
    note: "Charges from a small panel and from USB. For the hide that has no mains within a mile.",
    functions: ["charger", "boost", "power-path", "solar-input"],
    simulatedAs: "steady-synchronous",
    claims: [
      {
        source: { kind: "listing", wording: "5 V output" },
        readings: [reading("boost.no-load-voltage", nominal(5, null))],
      },
      {
        source: { kind: "data sheet", wording: "Charge current 1.0 A ±5 %" },
        readings: [reading("charge.cc-current", nominal(1, 0.05))],
      },
      {
        source: { kind: "data sheet", wording: "Charging efficiency 92 % (switching)" },
        readings: [reading("charge.efficiency", { kind: "at-least", low: 0.92 })],
      },
      {
        source: { kind: "data sheet", wording: "Panel held at 6.0 V ±2 %" },
        readings: [reading("solar.panel-voltage", nominal(6, 0.02))],
      },
      {
        source: { kind: "listing", wording: "Solar efficiency up to 85 %" },
        readings: [reading("solar.conversion-efficiency", { kind: "at-least", low: 0.85 })],
      },
      {
        source: { kind: "listing", wording: "charge and use at the same time" },
        readings: [reading("path.finishes-under-load", { kind: "yes-no", value: true })],
      },
      {
        source: { kind: "data sheet", wording: "Handover < 5 ms" },
        readings: [reading("path.handover-time", { kind: "at-most", high: 0.005 })],
      },
    ],
    samples: [{ name: "A", configuration: "divider as delivered", note: "Panel of two watts beside it." }],
    charges: [{ title: "Charge from USB", sample: 0, charger: "switching-ampere", seed: 51, startVoltage: 3.36 }],
    channels: { title: "Three chargers, three charges", sample: 0, charger: "three-channels", repeats: 3 },
  },
  {
    title: "Heath Four",
    facts: { price: 1.1, length: 0.05, width: 0.03, height: 0.008 },
    note: "For four cells in series, to carry the two-microphone recorder through a week. Cells from old torches.",
    functions: ["protection", "balancer"],
    simulatedAs: "steady-synchronous",
    claims: [
      {
        source: { kind: "data sheet", wording: "Overcharge 4.25 V ±50 mV a cell" },
        readings: [reading("pack.cutoff-cell-voltage", within(4.25, 0.05))],
      },
      {
        source: { kind: "data sheet", wording: "Overdischarge 2.8 V ±100 mV" },
        readings: [reading("pack.low-cutoff-cell-voltage", within(2.8, 0.1))],
      },
      {
        source: { kind: "listing", wording: "with balancing" },
        readings: [reading("pack.spread-at-cutoff", { kind: "at-most", high: 0.03 })],
      },
    ],
    samples: [{ name: "A", configuration: "", note: "" }],
    rest: { title: "The four cells, ten days at rest", sample: 0 },
  },
];

/** What the field recorders ask for. */
/** What the recorders of the reserve take: ten minutes of every hour at work, asleep for the rest. */
export const DEMO_LOAD: Load = {
  title: "Field sound recorder",
  note: "Records ten minutes of every hour, asleep for the rest.",
  voltage: 5,
  lowest: 4.75,
  steps: [
    { draw: "current", value: 0.18, seconds: 600 },
    { draw: "current", value: 0.002, seconds: 3000 },
  ],
  surge: 0.35,
  converters: [],
  wiring: { resistance: 0.05, ampacity: 3, jumper: false, taps: [] },
};

export const DEMO_NEED: Need = {
  title: "Field sound recorder",
  note: "5 V, 180 mA while it records, 2 mA asleep; left in the reed bed for three months on one cell.",
  currency: "€",
  requirements: [
    {
      id: "volts",
      level: "must",
      kind: "quantity",
      reading: reading("boost.no-load-voltage", { kind: "from-to", low: 4.75, high: 5.25 }),
    },
    {
      id: "amps",
      level: "must",
      kind: "quantity",
      reading: reading("boost.max-current", { kind: "at-least", low: 0.25 }, { battery: { at: 3.1 } }),
    },
    {
      id: "cut",
      level: "must",
      kind: "quantity",
      reading: reading("protect.over-discharge-present", { kind: "yes-no", value: true }),
    },
    {
      id: "short",
      level: "should",
      kind: "quantity",
      reading: reading("protect.short-present", { kind: "yes-no", value: true }),
    },
    {
      id: "life",
      level: "should",
      kind: "life",
      seconds: 90 * 86_400,
      capacity: 2.2,
      selfDischarge: 2e-5,
      state: "no-load",
    },
    {
      id: "charge",
      level: "should",
      kind: "quantity",
      reading: reading("charge.cc-current", { kind: "from-to", low: 0.4, high: 1.1 }),
    },
    {
      id: "ambient",
      level: "should",
      kind: "quantity",
      reading: reading("heat.max-ambient", { kind: "at-least", low: 40 }),
    },
    { id: "length", level: "should", kind: "fact", fact: "length", atMost: 0.045 },
    { id: "price", level: "should", kind: "fact", fact: "price", atMost: 2.5 },
  ],
  addedBoard: {
    price: 0.5,
    current: 4e-6,
    height: 0.003,
    resistance: 0.04,
    supplies: ["protect.over-discharge-present", "protect.over-current", "protect.short-present"],
  },
  build: { parts: 5.2, hours: 3, hourly: 0 },
};
