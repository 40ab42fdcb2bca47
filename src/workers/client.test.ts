import type { FromWorker, ToWorker } from "./protocol";
import { computing, lessBusy, openWorker, readingLogs } from "./client";

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
const ask = (w: ReturnType<typeof openWorker>, signal?: AbortSignal, progress?: (share: number) => void) => w.ask("log-csv", { runId: "r" }, signal, progress);

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

test("a worker that dies rejects everything that waits, with what to know; the next ask has a new one", async () => {
  const w = openWorker();
  const [a, b] = [ask(w), ask(w)];
  last().onerror?.({ message: "out of memory" });
  await expect(a).rejects.toThrow("A background worker stopped: out of memory.");
  await expect(b).rejects.toThrow("A background worker stopped");
  expect(FakeWorker.made[0]?.ended).toBe(true);
  const c = ask(w);
  expect(FakeWorker.made).toHaveLength(2);
  last().say({ id: last().asked[0]?.id ?? -1, ok: true, give: "again" });
  await expect(c).resolves.toBe("again");
});

test("cancelling ends the worker at once; what was cancelled before it was asked never starts one", async () => {
  const w = openWorker();
  const cancel = new AbortController();
  const a = ask(w, cancel.signal);
  cancel.abort();
  await expect(a).rejects.toThrow("Cancelled.");
  expect(last().ended).toBe(true);
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
