export type { BoardColumn, MatrixCell } from "./column";
export { boardColumn, matrixRows, type ColumnInput, type MatrixRow } from "./matrix";
export { curveKinds, curvesOf, laidOver, type Curve, type CurveKind, type CurveSource } from "./curves";
export { packColumn, type PackedColumn } from "./packed";
