export { ASKED_FROM } from "./limits";
export {
  conflictRecord,
  after,
  planMerge,
  standing,
  withOwners,
  type Conflict,
  type Here,
  type MergePlan,
} from "./merge";
export { ArchiveRefused, fileContent, openArchive, readArchive, type ArchiveContents, type OpenArchive } from "./read";
export {
  archiveOf,
  contentPath,
  writeArchive,
  writePart,
  type ArchivedRecords,
  type ArchivePart,
  type ArchiveSource,
} from "./write";
