export { DEFAULT_RIG, buildDemo, buildDemoWithLogs, type DemoMeans } from "./build";
