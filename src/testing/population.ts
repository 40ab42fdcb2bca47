/** How many of a random population are tried: a few with every run of the tests, all in a campaign (`npm run campaign`). */
export const population = (usual: number, campaign: number): number => (process.env.NIMBUS_CAMPAIGN ? campaign : usual);

/** The seed of a population: NIMBUS_SEED where one is to be tried again, else its own. Printed with the name of the test. */
export const seedOf = (own: number): number => Number(process.env.NIMBUS_SEED ?? own);
