/** A title as the beginning of a file's name: letters, digits and dashes, small; empty where none of them is in it. */
export const fileStem = (title: string): string =>
  title
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replace(/[^\w]+/g, "-")
    .replace(/^-+|-+$/g, "")
    .toLowerCase();
