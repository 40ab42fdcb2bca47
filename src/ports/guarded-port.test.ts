import { GuardedPort } from "./guarded-port";
import { PortError, type InstrumentPort, type PortReading } from "./port";

const READING: PortReading = { cells: {}, time: 1 };
const never = <T>(): Promise<T> => new Promise<T>(() => undefined);
const port = (change: Partial<InstrumentPort> = {}): InstrumentPort => ({
  abilities: { title: "", sets: true, reads: [], limits: {} },
  apply: () => Promise.resolve(),
  read: () => Promise.resolve(READING),
  safe: () => Promise.resolve(),
  powerCycle: () => Promise.resolve(),
  close: () => undefined,
  ...change,
});

test.each(["read", "apply", "safe"] as const)(
  "a bench that does not answer to %s is said in words, in time",
  async (what) => {
    const guarded = new GuardedPort(port({ [what]: never }), 20);
    await expect(what === "apply" ? guarded.apply({}) : guarded[what]()).rejects.toThrow(PortError);
    await expect(what === "apply" ? guarded.apply({}) : guarded[what]()).rejects.toThrow("The bench doesn't answer.");
  },
);

test("readings never overlap: a second call waits for the one under way", async () => {
  let asked = 0;
  let answer: (r: PortReading) => void = () => undefined;
  const guarded = new GuardedPort(port({ read: () => (asked++, new Promise<PortReading>((r) => (answer = r))) }), 1000);
  const [a, b] = [guarded.read(), guarded.read()];
  expect(asked).toBe(1);
  answer(READING);
  expect([await a, await b]).toEqual([READING, READING]);
  void guarded.read();
  expect(asked).toBe(2);
  answer(READING);
});

test("what the instruments refuse comes through in their words", async () => {
  await expect(
    new GuardedPort(port({ safe: () => Promise.reject(new PortError("An instrument refused: -222")) })).safe(),
  ).rejects.toThrow("-222");
});
