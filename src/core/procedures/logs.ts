import { PROCEDURES, type Procedure } from ".";
import { chargeChannels } from "./charge-channels";

/** What it takes to understand a log. */
export type LogAnalysis = Pick<Procedure, "id" | "version" | "title" | "readings" | "measures" | "analyse">;

/**
 * Whatever understands a log: the procedures, and what so far can only be analysed. Apart from the list of procedures,
 * so that the screens load none of it.
 */
export const LOG_ANALYSES: readonly LogAnalysis[] = [...PROCEDURES, chargeChannels];
export const logAnalysis = (id: string): LogAnalysis | undefined => LOG_ANALYSES.find((p) => p.id === id);
