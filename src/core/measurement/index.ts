/** The vocabulary of the bench: what is read, what is set, what is found, under which rules. */
export * from "./roles";
export * from "./readings";
export * from "./setup";
export * from "./run-conditions";
export * from "./live";
export * from "./findings";
export * from "./house-rules";
export * from "./as-said";
export * from "./load-setting";
