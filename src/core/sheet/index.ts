export {
  countedRuns,
  findingsSheet,
  runNumbers,
  standing,
  type FindingsSheet,
  type PaperContent,
  type SheetClaim,
  type SheetInput,
  type SheetRun,
} from "./sheet";
export { sentencesOf, type Found, type Piece, type Said, type Sentence } from "./sentences";
export { answerOf } from "./answer";
export { sheetMarkdown } from "./markdown";
