import type { FromWorker, ToWorker } from "./protocol";
import { computing, lessBusy, openWorker, PATIENCE, readingLogs } from "./client";

/** Stands in for a browser's worker: keeps what it was asked, answers when told to. */
class FakeWorker {
  static readonly made: FakeWorker[] = [];
  onmessage: ((e: { data: FromWorker }) => void) | null = null;
  onerror: ((e: { message: string }) => void) | null = null;
  readonly asked: ToWorker[] = [];
  ended = false;
  constructor() {
    FakeWorker.made.push(this);
  }
  postMessage(m: ToWorker): void {
    this.asked.push(m);
  }
  terminate(): void {
    this.ended = true;
  }
  say(data: FromWorker): void {
    this.onmessage?.({ data });
  }
}
const last = () => FakeWorker.made.at(-1) as FakeWorker;
const ask = (w: ReturnType<typeof openWorker>, signal?: AbortSignal, progress?: (share: number) => void) =>
  w.ask("log-csv", { runId: "r" }, signal, progress);

beforeAll(() => Object.assign(globalThis, { Worker: FakeWorker }));
beforeEach(() => {
  FakeWorker.made.length = 0;
});

test("answers go to who asked, in whatever order they come; the worker is started when first asked", async () => {
  const w = openWorker();
  expect(FakeWorker.made).toHaveLength(0);
  const [a, b] = [ask(w), ask(w)];
  expect(FakeWorker.made).toHaveLength(1);
  const [one, two] = last().asked;
  last().say({ id: two?.id ?? -1, ok: true, give: "second" });
  last().say({ id: one?.id ?? -1, ok: true, give: "first" });
  await expect(Promise.all([a, b])).resolves.toEqual(["first", "second"]);
});

test("an error of a task is that task's alone", async () => {
  const w = openWorker();
  const [a, b] = [ask(w), ask(w)];
  last().say({ id: last().asked[0]?.id ?? -1, ok: false, error: "row 3: no number" });
  last().say({ id: last().asked[1]?.id ?? -1, ok: true, give: "fine" });
  await expect(a).rejects.toThrow("row 3: no number");
  await expect(b).resolves.toBe("fine");
  expect(last().ended).toBe(false);
});

test("progress is told as it comes, and is no answer", async () => {
  const w = openWorker();
  const shares: number[] = [];
  const a = ask(w, undefined, (s) => shares.push(s));
  const id = last().asked[0]?.id ?? -1;
  for (const progress of [0.1, 0.5, 1]) last().say({ id, progress });
  last().say({ id, ok: true, give: "done" });
  await expect(a).resolves.toBe("done");
  expect(shares).toEqual([0.1, 0.5, 1]);
});

const answerTo = (w: FakeWorker, k: number, give = "done") =>
  w.say({ id: w.asked[k]?.id ?? -1, ok: true, give: give as never });

test("a worker that dies is started anew once, and what waited is asked again, one after the other", async () => {
  const w = openWorker();
  const [a, b] = [ask(w), ask(w)];
  last().onerror?.({ message: "out of memory" });
  expect(FakeWorker.made[0]?.ended).toBe(true);
  expect(FakeWorker.made).toHaveLength(2);
  expect(last().asked).toHaveLength(1);
  answerTo(last(), 0, "one");
  await expect(a).resolves.toBe("one");
  answerTo(last(), 1, "two");
  await expect(b).resolves.toBe("two");
});

test("the ask under which it dies twice fails alone, in words; the others are answered", async () => {
  const w = openWorker();
  const [poison, b, c] = [ask(w), ask(w), ask(w)];
  last().onerror?.({ message: "out of memory" });
  last().onerror?.({ message: "out of memory" });
  await expect(poison).rejects.toThrow(
    "A computation in the background stopped twice (out of memory). What is stored is safe; reload the page and try again.",
  );
  answerTo(last(), 0);
  answerTo(last(), 1);
  await Promise.all([b, c]);
  // From then on asks go together again.
  const [d, e] = [ask(w), ask(w)];
  const made = last();
  expect(made.asked).toHaveLength(4);
  answerTo(made, 2);
  answerTo(made, 3);
  await Promise.all([d, e]);
});

test("what can't be asked twice, such as an import that is half done, fails with its worker", async () => {
  const w = openWorker();
  const a = w.ask("archive-new", { file: new Blob([]) });
  last().onerror?.({ message: "" });
  await expect(a).rejects.toThrow("A computation in the background stopped (its code could not be loaded).");
  expect(w.pending()).toBe(0);
});

describe("patience", () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  test("an ask that nothing is heard of for a minute is given up alone; what waits behind it goes on", async () => {
    const w = openWorker();
    const [a, b] = [ask(w), ask(w)];
    const said = expect(a).rejects.toThrow(/longer than 1 min/);
    jest.advanceTimersByTime(PATIENCE.usual - 1);
    expect(FakeWorker.made).toHaveLength(1);
    jest.advanceTimersByTime(2);
    await said;
    expect(FakeWorker.made).toHaveLength(2);
    answerTo(last(), 0);
    await b;
    jest.advanceTimersByTime(10 * PATIENCE.long);
    expect(w.pending()).toBe(0);
  });
  test("every answer gives those behind it their time; what tells its progress has more", async () => {
    const w = openWorker();
    const [a, b] = [ask(w), ask(w)];
    jest.advanceTimersByTime(PATIENCE.usual - 1);
    answerTo(last(), 0);
    await a;
    jest.advanceTimersByTime(PATIENCE.usual - 1);
    answerTo(last(), 1);
    await b;
    const long = ask(w, undefined, () => undefined);
    jest.advanceTimersByTime(PATIENCE.long - 1);
    last().say({ id: last().asked[2]?.id ?? -1, progress: 0.5 });
    jest.advanceTimersByTime(PATIENCE.long - 1);
    answerTo(last(), 2);
    await long;
  });
});

test("cancelling ends the worker at once; what was cancelled before it was asked never starts one", async () => {
  const w = openWorker();
  const cancel = new AbortController();
  const [a, other] = [ask(w, cancel.signal), ask(w)];
  cancel.abort();
  await expect(a).rejects.toThrow("Cancelled.");
  expect(FakeWorker.made[0]?.ended).toBe(true);
  // Function was cancelled: the rest goes on with a new one.
  answerTo(last(), 0);
  await other;
  const before = FakeWorker.made.length;
  await expect(ask(openWorker(), cancel.signal)).rejects.toThrow("Cancelled.");
  expect(FakeWorker.made).toHaveLength(before);
});

test("cancelling what is answered already ends nothing, and a late answer of a worker that was ended is passed over", async () => {
  const w = openWorker();
  const cancel = new AbortController();
  const a = ask(w, cancel.signal);
  const first = last();
  first.say({ id: first.asked[0]?.id ?? -1, ok: true, give: "there" });
  await expect(a).resolves.toBe("there");
  cancel.abort();
  expect(first.ended).toBe(false);
  const b = ask(w);
  w.close();
  await expect(b).rejects.toThrow("Closed.");
  expect(() => first.say({ id: first.asked[1]?.id ?? -1, ok: true, give: "late" })).not.toThrow();
});

test("of both shared workers the one with less to do is asked, and never one that is at something long", async () => {
  const answer = (w: FakeWorker | undefined, k: number) => w?.say({ id: w.asked[k]?.id ?? -1, ok: true, give: "done" });
  expect(lessBusy()).toBe(computing());
  const one = ask(computing());
  expect(computing().pending()).toBe(1);
  expect(lessBusy()).toBe(readingLogs());
  const two = ask(lessBusy());
  expect(lessBusy()).toBe(computing());
  const [first, second] = FakeWorker.made;
  answer(first, 0);
  answer(second, 0);
  await Promise.all([one, two]);
  expect([computing().pending(), readingLogs().pending()]).toEqual([0, 0]);

  const long = ask(readingLogs(), undefined, () => undefined);
  const [a, b] = [ask(lessBusy()), ask(lessBusy())];
  expect(lessBusy()).toBe(computing());
  expect(first?.asked).toHaveLength(3);
  answer(second, 1);
  await long;
  expect(lessBusy()).toBe(readingLogs());
  answer(first, 1);
  answer(first, 2);
  await Promise.all([a, b]);
});
