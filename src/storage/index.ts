export { change, newId, now, redo, remove, StorageError, undo } from "./door";
export { boards, everything, meta, notebooks, ofBoard, ofKind, ofRun, photosOf, present, record, setMeta } from "./queries";
export {
  boardDossier,
  boardSummary,
  forgetAllDerived,
  keepLogAnalysis,
  logAnalysis,
  rulesOf,
  thinkWith,
  type BoardDossier,
  type BoardSummary,
  type Thinking,
} from "./board-dossier";
export { correctionsOf, readingsIn, storeLogsWith, runDossier, RunFollower, toPoint, type RunDossier } from "./run-dossier";
export { listen, type ChangeNotice } from "./notices";
export { useLive, type Live } from "./live";
export { useFollowedRun, type Followed } from "./followed-run";
export { useRunWriter, type Writer } from "./writer";
export { closeColumn, countPointAgain, forgetBoundary, leavePointOut, moveBoundary, noteRestart } from "./layers";
export { appendChunk, compactTrace, content, dropContent, dropTrace, putContent, readTrace, sweepWhenQuiet, traceExtent, whileLogComes, type TraceChunk, type TraceExtent } from "./traces";
