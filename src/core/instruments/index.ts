export { accuracyAt, readingOf, sourceName, type Accuracy } from "./accuracy";
