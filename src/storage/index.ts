export { localDay, localZone, todaysDate } from "./calendar";
export {
  change,
  edit,
  EditClash,
  newId,
  now,
  redo,
  remove,
  storageError,
  StorageError,
  undo,
  undoAct,
  type Act,
  type Item,
  type FieldClash,
  type Replayed,
} from "./door";
export { nextActs, pastActs, type PastAct } from "./history";
export {
  boards,
  everything,
  halvesOf,
  meta,
  notebooks,
  ofBoard,
  ofKind,
  ofRun,
  photosOf,
  present,
  record,
  rulesRecord,
  runsOf,
  setMeta,
} from "./queries";
export { openConflicts, settleConflict, type OpenConflict } from "./conflicts";
export {
  compactAll,
  compactHistory,
  horizon,
  notebookSize,
  removeNotebook,
  setHorizon,
  totalSize,
  USUAL_HORIZON,
  type Horizon,
  type NotebookSize,
} from "./room";
export { changesHere, changesSoFar, forgetRuns, keep, workBegins } from "./derived";
export { announceNotebook, listen, type ChangeNotice } from "./notices";
export { useLive, type Live } from "./live";
export {
  appendChunk,
  chunked,
  compactTrace,
  content,
  dropContent,
  dropTrace,
  putContent,
  readTrace,
  sweepWhenQuiet,
  traceExtent,
  whileLogComes,
  type TraceChunk,
  type TraceExtent,
} from "./traces";
