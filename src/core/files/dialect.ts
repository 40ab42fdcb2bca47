/** How a text table is written. */
export interface Dialect {
  readonly delimiter: string;
  readonly decimal: "." | ",";
}
