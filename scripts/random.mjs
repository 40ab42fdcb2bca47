/** npm run unit:random, and with --campaign npm run campaign: tests on random populations, small as in npm test or in full. */
import { run } from "./setup.mjs";

const campaign = process.argv.includes("--campaign");
const rest = process.argv.slice(2).filter((a) => a !== "--campaign");
process.exit(
  run(process.execPath, ["--max-old-space-size=6000", "node_modules/jest/bin/jest.js", ...rest], {
    env: { NIMBUS_RANDOM: "1", ...(campaign ? { NIMBUS_CAMPAIGN: "1" } : {}) },
  }),
);
