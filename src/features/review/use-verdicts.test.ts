import { tallyText, type Answered } from "./use-verdicts";

const answered = (claimId: string, word: Answered["word"], verdict: Answered["word"] = word): Answered => ({
  claimId,
  claim: "at least 1 A",
  word,
  verdict,
});

test("claims are counted once each, by their verdict and not by one of their results", () => {
  const verdicts = new Map([
    ["peak at 4.1 V", [answered("efficiency", "misses", "too close to call")]],
    ["peak at 3.6 V", [answered("efficiency", "misses", "too close to call")]],
    ["load", [answered("load", "meets"), answered("other", "misses")]],
    ["limit", [answered("double", "meets", "claim unclear")]],
  ]);
  expect(tallyText(verdicts)).toBe("1 met, 1 missed, 1 too close to call, 1 unclear");
  expect(tallyText(new Map())).toBe("");
});
