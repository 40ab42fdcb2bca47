import { chargeAnswer } from "../procedures/charge-cycle/answer";
import type { Finding } from "../measurement";
import { answerOf } from "./answer";

const find = (
  characteristic: string,
  value: number | string,
  unit: Finding["unit"],
  more: Partial<Finding> = {},
): Finding => ({
  characteristic,
  conditions: {},
  value,
  unit,
  expandedUncertainty: 0.004,
  budget: [],
  points: [],
  unfair: [],
  ...more,
});
const plain = (a: ReturnType<typeof answerOf>) =>
  a && { result: a.result.replace(/[\u00a0\u202f]/g, " "), beside: a.beside };
const CHARGE = [
  find("charge.cc-current", 0.9912, "A"),
  find("charge.cv-voltage", 4.1963, "V"),
  find("charge.total-time", 10020, "s"),
  find("charge.capacity", 2.204, "Ah"),
];

describe("a charge", () => {
  test("that ended: current, full voltage, time and charge", () => {
    expect(plain(answerOf({ headline: [], answer: chargeAnswer }, CHARGE, []))).toEqual({
      result: "Charges at 991 mA, full at 4.196 V after 2 h 47 min, 2.20 Ah delivered.",
      beside: null,
    });
  });
  test("that was interrupted gives what it holds, and says so", () => {
    const held = [CHARGE[0] as Finding, find("charge.partial-capacity", 1.1, "Ah")];
    expect(
      plain(
        answerOf({ headline: [], answer: chargeAnswer }, held, [
          { code: "foldback", message: "Hot." },
          { code: "interrupted", message: "Unplugged." },
        ]),
      ),
    ).toEqual({ result: "Charges at 991 mA, 1.10 Ah so far.", beside: "Unplugged." });
  });
});

test("another procedure: its headline in words, bounds and conditions with it, the jumper left to the head of the page", () => {
  const held = [4.1, 3.6].map((battery) =>
    find("boost.max-current", battery / 2, "A", {
      conditions: { battery, configuration: "J1 open" },
      bound: "at-least",
    }),
  );
  expect(plain(answerOf({ headline: ["boost.max-current", "boost.ripple"] }, held, []))?.result).toBe(
    "Highest load held: at least 2.0500 A at a 4.1 V battery, at least 1.8000 A at a 3.6 V battery.",
  );
  expect(
    plain(answerOf({ headline: ["protect.short-present"] }, [find("protect.short-present", "yes", "")], []))?.result,
  ).toBe("Short-circuit protection: yes.");
});

test("nothing found has no answer", () => {
  expect(answerOf({ headline: ["boost.max-current"] }, [], [])).toBeNull();
  expect(
    answerOf({ headline: ["charge.cc-current"], answer: chargeAnswer }, [find("charge.input-sag", 0.1, "V")], []),
  ).toBeNull();
});
