import { largestExpected, rangeRemarks } from "..";
import { metersPinned, readWith, type RunSetup } from "../../measurement";
import type { Accuracy, PinnedMeter } from "../../instruments";
import { sweepSetup } from "../load-sweep/fixtures/make";

const meter = (title: string, upTo: number, burden?: number): PinnedMeter => ({
  instrumentId: title,
  rangeId: "r",
  title,
  upTo,
  ...(burden === undefined ? {} : { burden }),
});
const A: Accuracy = { gain: 0.001, counts: 2, resolution: 0.001 };
const B: Accuracy = { gain: 0.002, counts: 2, resolution: 0.001 };

describe("what a run may bring at most", () => {
  test("of a load sweep, worked: 1.3 A at 5 V from 3.1 V and 80 % draws 2.62 A from the battery", () => {
    const largest = largestExpected({
      ...sweepSetup(),
      conditions: { ...sweepSetup().conditions, supplyCurrentLimit: 10 },
    } as RunSetup);
    expect(largest.outputCurrent).toBeCloseTo(1.3, 9);
    expect(largest.batteryVoltage).toBe(4.1);
    expect(largest.batteryCurrent).toBeCloseTo((5 * 1.3) / (0.8 * 3.1), 9);
  });
  test("never more from the battery than the supply gives", () => {
    expect(
      largestExpected({
        ...sweepSetup(),
        conditions: { ...sweepSetup().conditions, supplyCurrentLimit: 1 },
      } as RunSetup).batteryCurrent,
    ).toBe(1);
  });
  test("of a charge its programmed current and the cell's full voltage; of a plan that says nothing, nothing", () => {
    expect(
      largestExpected({ conditions: { programmedCurrent: 1 }, instruments: {}, plan: { cell: { fullVoltage: 4.2 } } }),
    ).toEqual({ cellCurrent: 1, cellVoltage: 4.2 });
    expect(largestExpected({ conditions: {}, instruments: {} })).toEqual({});
  });
});

describe("ranges that do not fit", () => {
  const of = (meters: RunSetup["meters"]) =>
    rangeRemarks({ ...sweepSetup(), ...(meters ? { meters } : {}) } as RunSetup).map((r) => r.text);
  test("a milliamp range on an amp is called out, with the jack; a volt range without one", () => {
    expect(of({ outputCurrent: meter("Plover, 60 mA", 0.06) })[0]).toMatch(
      /Output current may reach 1\.30.A, and Plover, 60 mA ends at 60\.0.mA: choose a larger range and its jack/,
    );
    expect(of({ outputVoltage: meter("Dunlin, 4 V", 4) })[0]).not.toContain("jack");
  });
  test("a burden that takes more than 50 mV is said", () => {
    expect(of({ outputCurrent: meter("Plover, 6 A", 6, 0.1) })[0]).toMatch(/drops 130.mV at 1\.30.A/);
    expect(of({ outputCurrent: meter("Plover, 6 A", 6, 0.01) })).toEqual([]);
  });
  test("without meters nothing is said", () => {
    expect(of(undefined)).toEqual([]);
  });
});

describe("which meter a run was read with", () => {
  const rig = { instruments: { batteryVoltage: A, outputVoltage: B }, meters: { batteryVoltage: meter("Dunlin", 6) } };
  test("that of the rig where the accuracy is its own; nobody's where it was typed for one run", () => {
    expect(metersPinned({ batteryVoltage: A }, rig)).toEqual({ batteryVoltage: rig.meters.batteryVoltage });
    expect(metersPinned({ batteryVoltage: B }, rig)).toEqual({});
    expect(metersPinned({ outputVoltage: B }, rig)).toEqual({});
  });
  test("a cell's volts are read with the meter that reads the battery's, as their accuracy is", () => {
    expect(metersPinned({ cellVoltage: A }, rig)).toEqual({ cellVoltage: rig.meters.batteryVoltage });
  });
  test("an accuracy written by hand takes the meter away, a chosen range brings it", () => {
    expect(readWith(rig, "batteryVoltage", B).meters).toEqual({});
    expect(readWith(rig, "outputVoltage", A, meter("Curlew", 10)).meters).toEqual({
      ...rig.meters,
      outputVoltage: meter("Curlew", 10),
    });
    expect(metersPinned({ batteryVoltage: B }, readWith(rig, "batteryVoltage", B))).toEqual({});
  });
});
