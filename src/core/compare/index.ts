export { better, boardColumn, matrixRows, type Better, type BoardColumn, type ColumnInput, type MatrixCell, type MatrixRow } from "./matrix";
export { curveKinds, curvesOf, laidOver, type Curve, type CurveKind, type CurveSource } from "./curves";
