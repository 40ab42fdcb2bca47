import { DEMO_LOAD } from "@/core/demo/boards";
import { fieldsOf, loadOf } from "./load-fields";
import { heldAgainst } from "./in-use";
import { loadText, runTimeText, stepText } from "./words";

const plain = (t: string): string => t.replace(/[\u00a0\u202f]/g, " ");

test("a load goes into its form and comes out as it was; a fuse and reports stay with it", () => {
  expect(loadOf(fieldsOf(DEMO_LOAD), DEMO_LOAD)).toEqual(DEMO_LOAD);
  const more = {
    ...DEMO_LOAD,
    wiring: {
      ...DEMO_LOAD.wiring,
      fuse: 0.5,
      taps: ["lamp"],
      added: { trip: 2, tolerance: 0.1, cut: 2.9, resistance: 0.04, current: 5e-6 },
    },
    used: [{ boardId: "b", date: "2026-11-30", seconds: 3600, ended: "" }],
    converters: [0.9],
  };
  expect(loadOf(fieldsOf(more), more)).toEqual(more);
});

test("an output that is switched off for a while stays off; what is unticked is gone", () => {
  const f = fieldsOf({
    ...DEMO_LOAD,
    steps: [
      { draw: "power", value: 0.9, seconds: 60 },
      { draw: "current", value: 0, seconds: 600, off: true },
    ],
  });
  expect(f.steps[1]).toEqual({ draw: "off", value: null, seconds: 600 });
  expect(loadOf(f, null).steps[1]).toEqual({ draw: "current", value: 0, seconds: 600, off: true });
  expect(loadOf({ ...f, add: false, tap: " lamp , , horn " }, null).wiring).toEqual({
    resistance: 0.05,
    ampacity: 3,
    jumper: false,
    taps: ["lamp", "horn"],
  });
});

test("a load, a step and a run time as an engineer writes them", () => {
  expect(plain(loadText(DEMO_LOAD))).toBe(
    "5 V (works down to 4.75 V); 180 mA for 10 min, 2 mA for 50 min; starts with 350 mA",
  );
  expect(plain(stepText({ draw: "resistance", value: 33, seconds: 90 }))).toBe("33 Ω for 90 s");
  expect(plain(runTimeText({ seconds: 113_990, secondsU: 720 }))).toBe("31.66 ± 0.20 h");
  expect(plain(runTimeText({ seconds: 40 * 86_400, secondsU: 3 * 86_400 }))).toBe("40.0 ± 3.0 d");
  expect(plain(runTimeText({ seconds: 7200 }))).toBe("about 2.0 h");
  expect(runTimeText({})).toBe("—");
});

test.each([
  [100, { seconds: 104, secondsU: 5 }, "as predicted"],
  [50, { seconds: 100, secondsU: 5 }, "50 % shorter than predicted"],
  [130, { seconds: 100, secondsU: 5 }, "30 % longer than predicted"],
  [130, {}, "nothing was predicted"],
])("%i s in use against a prediction", (seconds, fit, words) => {
  expect(plain(heldAgainst({ seconds }, fit))).toBe(words);
});
