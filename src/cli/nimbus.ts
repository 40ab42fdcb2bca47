import { parseArgs } from "node:util";
import { QUESTION_KINDS, type QuestionKind } from "@/core/use";
import { analyse } from "./analyse";
import { plan } from "./plan";

const USAGE = `usage: npm run --silent nimbus -- analyse FILE.csv [--setup FILE.setup.json] [--json] [--skip-bad-rows]
       npm run --silent nimbus -- fit|station|schedule|match FILE.json [--json]

analyse works out the named quantities of a log with their expanded uncertainties (k = 2).
  --setup FILE       what was measured, how the file is written, the conditions and the meters; without it
                     procedure and columns are told from the file, and ordinary handheld meters are assumed
  --json             findings and notes as JSON; without --setup the guess too
  --skip-bad-rows    skip rows that can't be read or are of another shape than the head, instead of stopping

fit, station, schedule and match answer a planning question in a file (JSON, SI units, a day's plan in minutes):
  fit                will this module run this load from this cell, and for how long
  station            many chargers on one supply: lanes, breaker, far bay, heat
  schedule           a day's tasks with the instruments there are: when each begins, when the day ends
  match              cells into series × parallel so that the weakest group holds most

Exit status: 0 done, 2 bad input (the error is on standard error).`;

async function main(argv: readonly string[]): Promise<number> {
  const fail = (message: string): number => {
    process.stderr.write(`${message}\n`);
    return 2;
  };
  let parsed;
  try {
    parsed = parseArgs({
      args: [...argv],
      allowPositionals: true,
      options: {
        setup: { type: "string" },
        json: { type: "boolean" },
        "skip-bad-rows": { type: "boolean" },
        help: { type: "boolean", short: "h" },
      },
    });
  } catch (e) {
    return fail(`${(e as Error).message}\n\n${USAGE}`);
  }
  const { values, positionals } = parsed;
  if (values.help) {
    process.stdout.write(`${USAGE}\n`);
    return 0;
  }
  const [command, file] = positionals;
  const kind = QUESTION_KINDS.find((k): k is QuestionKind => k === command);
  if (kind && file && positionals.length === 2) {
    if (values.setup !== undefined || values["skip-bad-rows"])
      return fail(
        `${values.setup !== undefined ? "--setup" : "--skip-bad-rows"} is for analyse; ${kind} takes a question alone.\n\n${USAGE}`,
      );
    const answer = await plan(kind, file, values.json === true);
    if (!answer.ok) return fail(answer.error);
    process.stdout.write(`${answer.value}\n`);
    return 0;
  }
  if (command !== "analyse" || !file || positionals.length !== 2) return fail(USAGE);
  const result = await analyse({
    file,
    ...(values.setup !== undefined ? { setup: values.setup } : {}),
    json: values.json === true,
    skipBadRows: values["skip-bad-rows"] === true,
  });
  if (!result.ok) return fail(result.error);
  process.stdout.write(`${result.value}\n`);
  return 0;
}

void main(process.argv.slice(2)).then((code) => {
  process.exitCode = code;
});
