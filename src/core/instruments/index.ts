export { accuracyAt, accuracyText, largestShown, ordinaryAccuracy, oscilloscopeAccuracy, readingOf, sourceName, type Accuracy } from "./accuracy";
export {
  INSTRUMENT_KINDS,
  RANGE_UNITS,
  edited,
  followed,
  pinned,
  rangesOn,
  sameAccuracy,
  type EditMeaning,
  type Instrument,
  type InstrumentKind,
  type MeterRange,
  type PinnedMeter,
  type PinnedRun,
  type RangeUnit,
} from "./instrument";
