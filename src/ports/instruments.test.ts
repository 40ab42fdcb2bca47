import { SIMULATED_BOARDS, TextInstruments, VirtualBench, benchFor, type BenchAddress } from "@/core/simulator";
import { isSteady } from "./steady";
import { TextCommandPort } from "./text-port";
import { TypedPort } from "./typed-port";
import { watchRestart } from "./restart";
import type { PortReading } from "./port";

/** A port over a bench whose clock is moved by hand, so that nothing waits. */
function portOver(model: Parameters<typeof benchFor>[0]) {
  const bench = new VirtualBench(benchFor(model, 2));
  const text = new TextInstruments(bench);
  const port = new TextCommandPort(
    {
      exchange: (lines) => {
        const answers = lines.map((l) => {
          const a = text.send(l.address as BenchAddress, l.line);
          if (l.line === "OUTP OFF") bench.advance(1);
          return a;
        });
        bench.advance(0.3);
        return Promise.resolve({ answers, time: bench.time });
      },
      close: () => undefined,
    },
    {
      title: "t",
      supply: "supply",
      load: "load",
      meters: {
        batteryVoltage: "meter:batteryVoltage",
        outputVoltage: "meter:outputVoltage",
        outputCurrent: "meter:outputCurrent",
      },
      limits: {},
    },
  );
  return { bench, port };
}

describe("the port over text commands", () => {
  test("sets and reads; what an instrument refuses comes back in its words", async () => {
    const { bench, port } = portOver(SIMULATED_BOARDS["steady-synchronous"].model);
    await port.apply({ supplyVoltage: 3.6, supplyCurrentLimit: 3, load: { mode: "current", value: 0.5 } });
    bench.advance(5);
    const r = await port.read();
    expect(r.cells.outputVoltage?.value).toBeCloseTo(5.05, 1);
    expect(r.cells.outputCurrent).toMatchObject({ status: "ok" });
    await expect(port.apply({ supplyVoltage: 300 })).rejects.toThrow(/-222.*300/);
    await port.safe();
    bench.advance(3);
    expect((await port.read()).cells.outputVoltage?.value).toBeCloseTo(0, 1);
  });

  test.each([
    ["steady-synchronous", "automatic"],
    ["diode-rectifier", "load-removal"],
    ["hiccup-limit", "load-removal"],
  ] as const)("%s comes back: %s", async (id, word) => {
    const { bench, port } = portOver(SIMULATED_BOARDS[id].model);
    await port.apply({ supplyVoltage: 3.1, supplyCurrentLimit: 5, load: { mode: "current", value: 0 } });
    bench.advance(3);
    await port.apply({ supplyVoltage: 3.1, load: { mode: "current", value: 2.2 } });
    bench.advance(5);
    const off = ((await port.read()).cells.outputVoltage?.value ?? 0) < 0.5;
    expect(await watchRestart(port, 5, off, () => Promise.resolve())).toBe(word);
  });

  test("a board that needs its supply cycled is found out", async () => {
    const { bench, port } = portOver({ ...SIMULATED_BOARDS["diode-rectifier"].model, recovery: "power-cycle" });
    await port.apply({ supplyVoltage: 3.1, supplyCurrentLimit: 5, load: { mode: "current", value: 0 } });
    bench.advance(3);
    await port.apply({ load: { mode: "current", value: 2.5 } });
    bench.advance(5);
    expect(await watchRestart(port, 5, true, () => Promise.resolve())).toBe("power-cycle");
  });
});

test("typed readings: what was entered is what is read", async () => {
  const port = new TypedPort(["batteryVoltage"], () => 42);
  port.enter("batteryVoltage", { value: 3.6, status: "ok" });
  expect(await port.read()).toEqual({ cells: { batteryVoltage: { value: 3.6, status: "ok" } }, time: 42 });
  port.clear();
  expect((await port.read()).cells).toEqual({});
});

describe("steady", () => {
  const at = (time: number, volts: number | null, temperature = 20): PortReading => ({
    time,
    cells: {
      outputVoltage: { value: volts, status: volts === null ? "empty" : "ok" },
      partTemperature: { value: temperature, status: "ok" },
    },
  });
  test.each<[string, PortReading[], boolean]>([
    ["equal readings over the window", [at(0, 5), at(1, 5), at(2, 5.001)], true],
    ["too short a time", [at(0, 5), at(0.5, 5), at(1, 5)], false],
    ["a step inside the window", [at(0, 5), at(1, 5), at(2, 4.8)], false],
    ["a step before it", [at(0, 4), at(1, 5), at(2, 5), at(3, 5)], true],
    ["creeping temperature is no matter", [at(0, 5, 20), at(1, 5, 25), at(2, 5, 30)], true],
    ["a missing reading", [at(0, 5), at(1, null), at(2, 5)], false],
    ["sparse readings of a hurried clock need three", [at(0, 5), at(15, 5)], false],
    ["nothing yet", [], false],
  ])("%s", (_name, history, expected) => {
    expect(isSteady(history)).toBe(expected);
  });
});
