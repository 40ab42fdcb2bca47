/** What is said where the browser gives no more room. */
export const STORAGE_FULL =
  "The browser's storage is full. Nothing of this change is stored. Export an archive, then free space or delete an old notebook.";
