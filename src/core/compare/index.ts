export { better, boardColumn, matrixRows, type Better, type BoardColumn, type ColumnInput, type MatrixCell, type MatrixRow } from "./matrix";
