export { DEFAULT_RIG, buildDemo, type DemoMeans } from "./build";
