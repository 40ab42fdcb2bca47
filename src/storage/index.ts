export { change, newId, now, redo, remove, StorageError, undo } from "./door";
export { boards, everything, meta, notebooks, ofBoard, ofKind, ofRun, photosOf, present, record, setMeta } from "./queries";
export {
  analyseRun,
  boardDossier,
  boardSummary,
  correctionsOf,
  forgetAllDerived,
  rulesOf,
  runDossier,
  toPoint,
  type BoardDossier,
  type BoardSummary,
  type RunDossier,
} from "./dossier";
export { listen, type ChangeNotice } from "./notices";
export { useLive, type Live } from "./live";
export { useRunWriter, type Writer } from "./writer";
