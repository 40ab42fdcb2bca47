export type { BoardColumn, MatrixCell } from "./column";
export { boardColumn, matrixRows, type ColumnInput, type MatrixRow } from "./matrix";
export { curveKinds, curvesOf, laidOver, type Curve, type CurveKind, type CurveSource } from "./curves";
export {
  claimMarks,
  claimRows,
  goodSide,
  type BoardMark,
  type ClaimAxis,
  type ClaimMark,
  type ClaimRow,
} from "./claim-marks";
export { density, lanes, onStrip, stripScale, type StripScale } from "./strip";
export { cellsToldBy, FIRST_PROCEDURES, proceduresInSight, ROOM, toldBy } from "./part";
export { packColumn, type PackedColumn } from "./packed";
