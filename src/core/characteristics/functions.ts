/** Functions that a board may have; they decide which steps of the bench and which claims are offered. */
export const BOARD_FUNCTIONS = ["charger", "protection", "boost", "power-path", "solar-input", "balancer"] as const;
export type BoardFunction = (typeof BOARD_FUNCTIONS)[number];

export const FUNCTION_LABELS: Readonly<Record<BoardFunction, string>> = {
  charger: "charges a cell",
  protection: "protects the cell",
  boost: "boosts to an output",
  "power-path": "feeds the load from the input",
  "solar-input": "takes a solar panel",
  balancer: "balances a pack",
};

/** What a board may be, to choose from. */
export const FUNCTION_CHOICES = BOARD_FUNCTIONS.map((value) => ({ value, label: FUNCTION_LABELS[value] }));
