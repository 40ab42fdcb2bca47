/** Before the unit tests: the demo is simulated once for all suites, and only where code under it has changed since. */
import { makeDemo } from "./setup.mjs";

export default function setup() {
  if (makeDemo() !== 0) throw new Error("The demo could not be made (scripts/build-demo.ts).");
}
