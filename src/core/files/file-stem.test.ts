import { fileStem } from "./file-stem";

test.each([
  ["Sedge 51", "sedge-51"],
  ["  5 V, 1 A!  ", "5-v-1-a"],
  ["Überladung: Zelle", "uberladung-zelle"],
  ["a/b\\c..d", "a-b-c-d"],
  ["---", ""],
  ["", ""],
])("%p begins a file's name with %p", (title, stem) => {
  expect(fileStem(title)).toBe(stem);
});
