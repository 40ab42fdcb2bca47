export { guessFromColumns, guessFromShape, type Alternative, type Guess } from "./guess";
export { guessTable, guessText, possibleMappings, type LogGuess } from "./guess-log";
export { tableColumns } from "./columns";
export { assumedSetup, likelyOutput, type Assumption } from "./assumed";
