/** How a text table is written. */
export interface Dialect {
  readonly delimiter: string;
  readonly decimal: "." | ",";
  /** Lines before the head, blank ones too; absent for none. */
  readonly skip?: number;
  /** The first row is one of readings: columns are named “Column 1” and so on. */
  readonly headless?: true;
  /** A second head line holds the units. */
  readonly units?: true;
  /** Lines end in a carriage return alone. */
  readonly ends?: "CR";
}
