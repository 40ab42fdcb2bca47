export * from "./result";
export { ELEMENTS } from "./elements";
export { numeric } from "./numeric";
export { UNITS, UNIT_INFO, unitSymbol, type Unit } from "./units";
export {
  exactText,
  parseDecimal,
  parseQuantity,
  parseTolerance,
  scaled,
  type ParsedQuantity,
  type ParsedTolerance,
} from "./parse";
export {
  capital,
  decimalsFor,
  plainNumber,
  fromTo,
  writeUncertaintiesTo,
  writtenDigits,
  formatDuration,
  formatRoughly,
  formatParts,
  formatQuantity,
  listed,
  type FormatOptions,
  type FormattedQuantity,
} from "./format";
export { nearestStandard, seriesValues, type SeriesName } from "./series";
export {
  add,
  budget,
  divide,
  exact,
  expandedUncertainty,
  fromResolution,
  multiply,
  propagate,
  rectangular,
  scale,
  standardUncertainty,
  uncertaintyOfDifference,
  subtract,
  uncertain,
  withPart,
  leads,
  model,
  ownUncertainty,
  partOf,
  power,
  sameSource,
  sampling,
  scatter,
  withoutKind,
  type ErrorKind,
  type ErrorSource,
  type SourceShare,
  type Uncertain,
} from "./uncertainty";
export { fitLine, fitPolynomial, invert, type PolynomialFit } from "./least-squares";
export { calendarDay } from "./calendar";
export { highest, lowest } from "./extremes";
export { median, normalCdf, quantile, quantiles, scatterOfMean, studentT } from "./statistics";
