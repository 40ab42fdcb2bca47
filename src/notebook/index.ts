export {
  boardDossier,
  findingsUnder,
  flipsIf,
  keepLogAnalysis,
  logAnalysis,
  resultsOf,
  type BoardDossier,
  type Flip,
} from "./board-dossier";
export { boardSummary, comparedBoard, comparedPart, keptColumns, keptSummaries, noteMoved } from "./board-kept";
export { type BoardSummary, type ComparedBoard, type Compute } from "./compute";
export { candidatesOf, weighedBoards, type WeighedBoard } from "./candidates";
export { assumeOrdinaryMeters } from "./assume";
export { freeName, namingIn, nextSampleName, runTitlesOf, titlesOf } from "./naming";
export { letDecide, letNewestDecide, setRunAside } from "./deciding";
export { importedAs } from "./imported";
export { drawer, type Drawer, type DrawerCell } from "./drawer";
export { correctionsOf, readingsIn, runDossier, RunFollower, toPoint, type RunDossier } from "./run-dossier";
export { useFollowedRun, type Followed } from "./followed-run";
export { useRunWriter, type Writer } from "./writer";
export { addCells, cellMeter, keepCell, readCells, rejectCell, takeIn, type CellLookDraft } from "./cells";
export {
  closeColumn,
  correctReadings,
  countPointAgain,
  forgetBoundary,
  leavePointOut,
  moveBoundary,
  noteRestart,
  readRole,
  unusedRoles,
} from "./layers";
export { keepDraft, pinnedOn, preparedRun, startedNow } from "./prepare";
export { applyEdit, editEffect, leadsEffect, rigOf, withMeters, withMetersOn, type EditEffect } from "./rigs";
export { addStation, endCharge, startCharge, type ChargeStart } from "./bays";
export { addPack, takeApart } from "./packs";
export { rulesOf } from "./rules";
