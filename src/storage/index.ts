export { change, newId, now, redo, remove, StorageError, undo } from "./door";
export { boards, everything, meta, notebooks, ofBoard, ofKind, ofRun, photosOf, present, record, setMeta } from "./queries";
export {
  boardDossier,
  boardSummary,
  forgetAllDerived,
  rulesOf,
  thinkWith,
  type BoardDossier,
  type BoardSummary,
  type Thinking,
} from "./board-dossier";
export { correctionsOf, readingsIn, readTracesWith, runDossier, RunFollower, toPoint, type RunDossier } from "./run-dossier";
export { listen, type ChangeNotice } from "./notices";
export { useLive, type Live } from "./live";
export { useRunWriter, type Writer } from "./writer";
export { closeColumn, countPointAgain, leavePointOut, noteRestart } from "./layers";
