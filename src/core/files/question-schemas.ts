/** JSON Schemas of the planning questions that the command line answers; compiled ahead of time with those of the records. */
import { QUESTION_KINDS, type QuestionKind } from "../use";

type Schema = Readonly<Record<string, unknown>>;

const zeroUp = { type: "number", minimum: 0 } as const;
const positive = { type: "number", exclusiveMinimum: 0 } as const;
const share = { type: "number", minimum: 0, maximum: 1 } as const;
const count = { type: "integer", minimum: 1 } as const;
const words = { type: "string", minLength: 1, maxLength: 200 } as const;
/** °C: nothing at the bench is colder, or a part would be slag. */
const temperature = { type: "number", minimum: -100, maximum: 400 } as const;
const object = (properties: Record<string, Schema>, optional: readonly string[] = []): Schema => ({
  type: "object",
  properties,
  required: Object.keys(properties).filter((k) => !optional.includes(k)),
  additionalProperties: false,
});
const list = (items: Schema, least = 1): Schema => ({ type: "array", items, minItems: least, maxItems: 10_000 });
const question = (properties: Record<string, Schema>): Schema =>
  object({ title: words, note: { type: "string" }, ...properties }, ["title", "note"]);
const counts = { type: "object", additionalProperties: { type: "integer", minimum: 0, maximum: 10_000 } } as const;

export const QUESTION_SCHEMAS: Readonly<Record<QuestionKind, Schema>> = {
  fit: question({
    load: object({ power: positive, duty: share, sleepPower: zeroUp }, ["duty", "sleepPower"]),
    module: object({
      outputVoltage: positive,
      loss: { type: "array", items: zeroUp, minItems: 3, maxItems: 3 },
      inputCurrentLimit: positive,
      minimumInput: zeroUp,
      standbyCurrent: zeroUp,
    }),
    cell: object(
      {
        capacity: positive,
        resistance: zeroUp,
        openCircuit: list({ type: "array", items: { type: "number" }, minItems: 2, maxItems: 2 }, 2),
        series: count,
        parallel: count,
        floor: zeroUp,
        selfDischargeCurrent: zeroUp,
      },
      ["series", "parallel"],
    ),
    between: object({ resistance: zeroUp, cut: zeroUp, trip: positive }, ["cut", "trip"]),
  }),
  station: question({
    bays: { ...count, maximum: 10_000 },
    chargeCurrent: positive,
    currentTolerance: { type: "number", minimum: 0, exclusiveMaximum: 1 },
    quiescent: zeroUp,
    margin: zeroUp,
    supply: object({ volts: positive, amps: positive }),
    breakers: list(positive, 0),
    wire: object({ ampacity: positive, segmentResistance: zeroUp }),
    minimumInput: zeroUp,
    ambient: temperature,
    thermalResistance: zeroUp,
    foldbackTemperature: temperature,
    lowestCellVoltage: zeroUp,
  }),
  schedule: question({
    instruments: counts,
    tasks: list(
      object(
        {
          id: words,
          title: words,
          steps: list(object({ minutes: { ...count, maximum: 100_000 }, needs: counts })),
          after: list(words, 0),
        },
        ["after", "title"],
      ),
    ),
  }),
  match: question({
    series: count,
    parallel: count,
    cells: list(object({ code: words, capacity: positive, resistance: zeroUp }, ["resistance"])),
  }),
};
export const NAMED_QUESTION_SCHEMAS = QUESTION_KINDS.map((name) => ({ name, schema: QUESTION_SCHEMAS[name] }));
