import { readFileSync } from "node:fs";
import { roleLabel, roleUnit, type Role } from "@/core/measurement";
import { CHARACTERISTICS } from "@/core/characteristics";
import { shippedFiles, writtenTexts, type WrittenText } from "./strings";

/** Phrases that docs/words.md lists as gone, with what to write. */
const GONE = readFileSync("docs/words.md", "utf8")
  .split("## Gone")[1]
  ?.split("\n")
  .flatMap((line) => {
    const [, phrase, better] = /^- (.+?) → (.+)$/.exec(line) ?? [];
    return phrase && better
      ? [
          {
            phrase,
            better,
            pattern: new RegExp(
              `(?<![\\w-])${phrase.replaceAll(".", "\\.").replaceAll("…", "(?:\\S+ ){0,2}\\S+")}(?![\\w-])`,
              "i",
            ),
          },
        ]
      : [];
  }) as { phrase: string; better: string; pattern: RegExp }[];

/** Texts that hold such a phrase for a reason. */
const EXCEPT: readonly { readonly file: RegExp; readonly text: RegExp; readonly why: string }[] = [
  { file: /mapping|synonyms|listing-words|heads/, text: /./, why: "words that other people's files and listings use" },
  { file: /quantities\/units\.ts$/, text: /^volts per (day|second)$/, why: "how a unit is read aloud" },
  { file: /resistors\.ts$/, text: /^chooseLoads: /, why: "names an argument; only a fault in the code shows it" },
  { file: /./, text: /^internal: /, why: "only a fault in the code shows it" },
  { file: /behaviour/, text: /^by-pass jumper$/, why: "the name of an item, stored in answers and claims" },
  {
    file: /(behaviour|overload|pack-charge|simulator|rehearsal|files|settle|sentences)/,
    text: /^by itself$/,
    why: "an answer that is stored in records",
  },
];

const TEXTS: readonly WrittenText[] = shippedFiles("src").flatMap(writtenTexts);

test("the list of phrases that are gone is read", () => {
  expect(GONE.length).toBeGreaterThan(40);
  expect(GONE.some((g) => g.pattern.test("Write down a board"))).toBe(true);
  expect(GONE.some((g) => g.pattern.test("Carry the run on"))).toBe(true);
  expect(GONE.some((g) => g.pattern.test("Save the run"))).toBe(false);
  expect(GONE.some((g) => g.pattern.test("Battery volts"))).toBe(true);
});

test("no text in the source uses one of them", () => {
  expect(TEXTS.length).toBeGreaterThan(3000);
  const found = TEXTS.filter((t) => !EXCEPT.some((e) => e.file.test(t.file) && e.text.test(t.text))).flatMap((t) =>
    GONE.filter((g) => g.pattern.test(t.text)).map(
      (g) => `${t.file}:${t.line} “${t.text}”: not “${g.phrase}” but ${g.better}`,
    ),
  );
  expect(found).toEqual([]);
});

test("every exception is needed", () => {
  expect(
    EXCEPT.filter((e) => !TEXTS.some((t) => e.file.test(t.file) && e.text.test(t.text))).map((e) => e.why),
  ).toEqual([]);
});

test("a heading asks only where an answer is expected", () => {
  const headings = TEXTS.filter(
    (t) => t.place === "attribute title" && /\.tsx$/.test(t.file) && !t.text.startsWith("…"),
  );
  expect(headings.length).toBeGreaterThan(40);
  // What asks before something is lost or changed, and what asks for a choice.
  const asking = /^(Delete|Remove|Fit for use|Finish before|What does the change|What would settle)/;
  expect(
    headings.filter((t) => t.text.endsWith("?") && !asking.test(t.text)).map((t) => `${t.file}:${t.line} ${t.text}`),
  ).toEqual([]);
});

test("a role has one label, in the words of its quantity, and no two share one", () => {
  const roles: Role[] = [
    "inputVoltage",
    "inputCurrent",
    "cellVoltage",
    "cellCurrent",
    "batteryVoltage",
    "batteryCurrent",
    "outputVoltage",
    "outputCurrent",
    "partTemperature",
    "cellTemperature",
    "ambientTemperature",
    "referenceVoltage",
    "referenceCurrent",
    "cell3Voltage",
  ];
  const labels = roles.map(roleLabel);
  expect(new Set(labels).size).toBe(labels.length);
  for (const r of roles) {
    if (roleUnit(r) === "V") expect(roleLabel(r)).toMatch(/ voltage$/);
    if (roleUnit(r) === "A") expect(roleLabel(r)).toMatch(/ current$/);
  }
});

test("what names a role in the interface uses that label", () => {
  // Other names that were in use for what a meter reads.
  const other = /\b(?:battery|cell|input|output|load) (?:volts?|amps?|V|A)\b/i;
  expect(
    TEXTS.filter((t) => /features|ui\//.test(t.file) && other.test(t.text) && !/paste rows/i.test(t.text)).map(
      (t) => `${t.file}:${t.line} ${t.text}`,
    ),
  ).toEqual([]);
});

test("labels of quantities are told apart", () => {
  const labels = CHARACTERISTICS.map((c) => c.label);
  expect(labels.filter((l, k) => labels.indexOf(l) !== k)).toEqual([]);
});
