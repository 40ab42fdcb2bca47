export { change, edit, EditClash, newId, now, redo, remove, storageError, StorageError, undo, undoAct, type Act, type Item, type FieldClash, type Replayed } from "./door";
export { nextActs, pastActs, type PastAct } from "./history";
export { boards, everything, meta, notebooks, ofBoard, ofKind, ofRun, photosOf, present, record, rulesRecord, runsOf, setMeta } from "./queries";
export {
  boardDossier,
  boardSummary,
  comparedBoard,
  findingsUnder,
  flipsIf,
  keepLogAnalysis,
  keptColumns,
  keptSummaries,
  logAnalysis,
  noteMoved,
  resultsOf,
  rulesOf,
  thinkWith,
  type BoardDossier,
  type BoardSummary,
  type ComparedBoard,
  type Flip,
  type Thinking,
} from "./board-dossier";
export { candidatesOf } from "./candidates";
export { assumeOrdinaryMeters } from "./assume";
export { freeName, namingIn, nextSampleName, runTitlesOf, titlesOf } from "./naming";
export { openConflicts, settleConflict, type OpenConflict } from "./conflicts";
export { letDecide, letNewestDecide, setRunAside } from "./deciding";
export { importedAs } from "./imported";
export { compactAll, compactHistory, horizon, notebookSize, removeNotebook, setHorizon, totalSize, USUAL_HORIZON, type Horizon, type NotebookSize } from "./room";
export { forgetRuns, keep, workBegins } from "./derived";
export { drawer, type Drawer, type DrawerCell } from "./drawer";
export { correctionsOf, readingsIn, storeLogsWith, runDossier, RunFollower, toPoint, type RunDossier } from "./run-dossier";
export { announceNotebook, listen, type ChangeNotice } from "./notices";
export { useLive, type Live } from "./live";
export { useFollowedRun, type Followed } from "./followed-run";
export { useRunWriter, type Writer } from "./writer";
export { addCells, cellMeter, keepCell, readCells, rejectCell, takeIn, type CellLookDraft } from "./cells";
export { closeColumn, correctReadings, countPointAgain, forgetBoundary, leavePointOut, moveBoundary, noteRestart, readRole, unusedRoles } from "./layers";
export { appendChunk, chunked, compactTrace, content, dropContent, dropTrace, putContent, readTrace, sweepWhenQuiet, traceExtent, whileLogComes, type TraceChunk, type TraceExtent } from "./traces";
export { keepDraft, pinnedOn, preparedRun, startedNow } from "./prepare";
export { applyEdit, editEffect, leadsEffect, rigOf, withMeters, withMetersOn, type EditEffect } from "./rigs";
export { addStation, endCharge, startCharge, type ChargeStart } from "./bays";
export { addPack, takeApart } from "./packs";
