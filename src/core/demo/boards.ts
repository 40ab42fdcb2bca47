import type { BoardFunction, ConditionSpecs } from "../characteristics";
import type { ClaimReading, ClaimSource, Limit } from "../claims";
import type { SimulatedBoardId, SimulatedChargerId } from "../simulator";

/** The volunteers of a nature reserve pick power boards for their field sound recorders. Everything here is invented. */
export interface DemoBoard {
  readonly title: string;
  readonly note: string;
  readonly functions: readonly BoardFunction[];
  readonly simulatedAs: SimulatedBoardId;
  readonly claims: readonly { readonly source: Omit<ClaimSource, "date">; readonly readings: readonly ClaimReading[] }[];
  readonly samples: readonly { readonly name: string; readonly configuration: string; readonly note: string }[];
  /** Charges on the simulated bench, in their order. */
  readonly charges?: readonly { readonly title: string; readonly sample: number; readonly charger: SimulatedChargerId; readonly seed: number; readonly startVoltage: number }[];
  readonly sweep?: { readonly title: string; readonly sample: number; readonly seed: number; readonly most?: number; readonly supplyLimit?: number; readonly leftOut?: { readonly at: number; readonly why: string } };
}

const reading = (characteristic: string, limit: Limit, conditions: ConditionSpecs = {}): ClaimReading => ({ characteristic, limit, conditions });
const nominal = (value: number, relative: number | null): Limit => ({ kind: "nominal", nominal: value, tolerance: relative === null ? null : { kind: "relative", value: relative } });

export const DEMO_BOARDS: readonly DemoBoard[] = [
  {
    title: "Sedge 51",
    note: "Small green board with a USB-C input, sold in bags of five. For the hide by the reed bed.",
    functions: ["charger", "protection", "boost"],
    simulatedAs: "steady-synchronous",
    claims: [
      { source: { kind: "listing", wording: "Output 5 V ±2 %" }, readings: [reading("boost.no-load-voltage", nominal(5, 0.02))] },
      { source: { kind: "listing", wording: "Output current up to 1.3 A" }, readings: [reading("boost.max-current", { kind: "at-least", low: 1.3 })] },
      { source: { kind: "listing", wording: "Efficiency up to 96.5 %" }, readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.965 })] },
      {
        source: { kind: "print on the board", wording: "discharge 1.8A" },
        readings: [reading("boost.input-current-limit", { kind: "at-least", low: 1.8 }), reading("boost.max-current", { kind: "at-least", low: 1.8 })],
      },
      { source: { kind: "data sheet", wording: "Load regulation < 3 %" }, readings: [reading("boost.load-regulation", { kind: "at-most", high: 0.03 })] },
      { source: { kind: "data sheet", wording: "Standby current 150 µA max." }, readings: [reading("standby.current", { kind: "at-most", high: 1.5e-4 }, { state: { word: "no-load" } })] },
    ],
    samples: [
      { name: "A", configuration: "jumper J1 open", note: "First out of the bag." },
      { name: "B", configuration: "jumper J1 open", note: "Spare." },
    ],
    sweep: { title: "Load sweep", sample: 0, seed: 11, leftOut: { at: 9, why: "clip slipped off OUT+ while reading" } },
  },
  {
    title: "Marl 15",
    note: "Promises a lot for its size. Wanted for the recorder with two microphones.",
    functions: ["charger", "boost"],
    simulatedAs: "weak-switch",
    claims: [
      { source: { kind: "listing", wording: "5V 1.5A OUTPUT!" }, readings: [reading("boost.max-current", { kind: "at-least", low: 1.5 })] },
      { source: { kind: "listing", wording: "output 5V" }, readings: [reading("boost.no-load-voltage", nominal(5, null))] },
      { source: { kind: "listing", wording: "efficiency 97%" }, readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.97 })] },
      { source: { kind: "data sheet", wording: "VOUT accuracy ±1 %" }, readings: [reading("boost.no-load-voltage", nominal(5, 0.01))] },
    ],
    samples: [{ name: "A", configuration: "", note: "" }],
    sweep: { title: "Load sweep", sample: 0, seed: 23 },
  },
  {
    title: "Tarn 9",
    note: "Has a diode where others switch. Half way through its sweep: carry on where it stopped.",
    functions: ["boost"],
    simulatedAs: "diode-rectifier",
    claims: [
      { source: { kind: "listing", wording: "5.3 V ±3 % for long cables" }, readings: [reading("boost.no-load-voltage", nominal(5.3, 0.03))] },
      { source: { kind: "listing", wording: "max. 1 A" }, readings: [reading("boost.max-current", { kind: "at-least", low: 1 })] },
      { source: { kind: "data sheet", wording: "Efficiency 90 % (3.6 V, 0.5 A)" }, readings: [reading("boost.peak-efficiency", { kind: "at-least", low: 0.9 }, { battery: { at: 3.6 } })] },
    ],
    samples: [{ name: "A", configuration: "", note: "Leads soldered on." }],
    sweep: { title: "Load sweep", sample: 0, seed: 5, most: 22 },
  },
  {
    title: "Alder 12",
    note: "Its first sweep ran from a small supply, which gave up before the board did; its first charge hung on a thin cable.",
    functions: ["charger", "protection", "boost"],
    simulatedAs: "hiccup-limit",
    claims: [
      { source: { kind: "listing", wording: "1.2 A continuous" }, readings: [reading("boost.max-current", { kind: "at-least", low: 1.2 })] },
      { source: { kind: "data sheet", wording: "VOUT 5.00 V ±1.5 %" }, readings: [reading("boost.no-load-voltage", nominal(5, 0.015))] },
      { source: { kind: "listing", wording: "1000 mA charger" }, readings: [reading("charge.cc-current", nominal(1, 0.05))] },
      { source: { kind: "data sheet", wording: "VBAT 4.2 V ±0.75 %" }, readings: [reading("charge.cv-voltage", nominal(4.2, 0.0075))] },
    ],
    samples: [{ name: "A", configuration: "jumpers as delivered", note: "" }],
    charges: [
      { title: "Charge on the long cable", sample: 0, charger: "thin-cable", seed: 41, startVoltage: 3.31 },
      { title: "Charge on a short cable", sample: 0, charger: "honest-ampere", seed: 42, startVoltage: 2.84 },
    ],
    sweep: { title: "Load sweep, small supply", sample: 0, seed: 31, supplyLimit: 1.5 },
  },
  {
    title: "Peat Duo",
    note: "Two outputs in one. Still in its bag.",
    functions: ["charger", "protection", "boost", "power-path"],
    simulatedAs: "steady-synchronous",
    claims: [
      { source: { kind: "listing", wording: "Dual output 5V/2A" }, readings: [reading("boost.max-current", { kind: "at-least", low: 2 })] },
      { source: { kind: "listing", wording: "Dual output 5V/2A" }, readings: [reading("boost.no-load-voltage", nominal(5, null))] },
      { source: { kind: "listing", wording: "1A fast charge" }, readings: [reading("charge.cc-current", nominal(1, null))] },
    ],
    samples: [{ name: "A", configuration: "", note: "" }],
  },
];
