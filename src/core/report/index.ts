export { analyseFile, reportJson, type FileAsked, type FileRefusal, type FileReport } from "./analyse-file";
