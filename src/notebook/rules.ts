import { completeRules, type HouseRules } from "@/core/measurement/house-rules";
import { rulesRecord } from "@/storage/queries";

/** The house rules of a notebook, with what was not settled there as it is by default. Every page asks for them: nothing else is fetched with them. */
export async function rulesOf(notebookId: string): Promise<HouseRules> {
  return completeRules((await rulesRecord(notebookId))?.rules);
}
