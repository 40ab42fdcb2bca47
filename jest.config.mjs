/** Populations of random modules, charges and archives take minutes: `npm run unit:random`, and `npm test` beside the rest. */
const RANDOM = "\\.random\\.test\\.tsx?$";

const config = {
  globalSetup: "<rootDir>/scripts/jest-setup.mjs",
  // Both cores: nothing else runs meanwhile.
  maxWorkers: 2,
  ...(process.env.NIMBUS_RANDOM ? { testRegex: [RANDOM] } : { testPathIgnorePatterns: ["/node_modules/", RANDOM] }),
  testEnvironment: "node",
  // Tests are about what is right, not how fast: a machine that stops for seconds must not fail one, nor a campaign of an hour.
  testTimeout: process.env.NIMBUS_CAMPAIGN ? 7_200_000 : process.env.NIMBUS_RANDOM ? 600_000 : 60_000,
  roots: ["<rootDir>/src"],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
  transform: {
    "^.+\\.(t|m?j)sx?$": [
      "@swc/jest",
      {
        jsc: {
          parser: { syntax: "typescript", tsx: true },
          target: "es2022",
          transform: { react: { runtime: "automatic" } },
        },
        module: { type: "commonjs" },
      },
    ],
  },
  transformIgnorePatterns: [
    "/node_modules/(?!(@tanstack|idb|@noble|d3-[a-z-]+|internmap|ml-levenberg-marquardt|is-any-array|typebox)/)",
  ],
};

export default config;
