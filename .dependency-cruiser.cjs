/** Who may import whom; docs/architecture.md says why. */
const outside = "^src/(?!core/)";
module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    { name: "core-knows-only-core", severity: "error", from: { path: "^src/core/", pathNot: "\\.test\\.ts$" }, to: { path: outside } },
    { name: "quantities-import-nothing", severity: "error", from: { path: "^src/core/quantities/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/(?!core/quantities/)" } },
    { name: "characteristics-import-quantities", severity: "error", from: { path: "^src/core/characteristics/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/(?!core/(quantities|characteristics)/)" } },
    { name: "no-sibling-procedures", severity: "error", from: { path: "^src/core/procedures/([^/]+)/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/core/procedures/[^/]+/", pathNot: "^src/core/procedures/$1/" } },
    { name: "simulator-never-sees-analysis", severity: "error", from: { path: "^src/core/simulator/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/core/(procedures|verdicts|claims|files)/" } },
    { name: "procedures-never-see-simulator", severity: "error", from: { path: "^src/core/(procedures|verdicts|claims)/", pathNot: "\\.test\\.ts$" }, to: { path: "^src/core/(simulator|rehearsal|demo|files)/" } },
    { name: "no-sibling-features", severity: "error", from: { path: "^src/features/([^/]+)/" }, to: { path: "^src/features/[^/]+/", pathNot: "^src/features/$1/" } },
    { name: "ui-only-shows", severity: "error", from: { path: "^src/ui/" }, to: { path: "^src/(storage|workers|instruments|features|app)/" } },
    { name: "storage-knows-core", severity: "error", from: { path: "^src/storage/" }, to: { path: "^src/(ui|workers|instruments|features|app|session)/" } },
    { name: "workers-know-core-and-stored-logs", severity: "error", from: { path: "^src/workers/" }, to: { path: "^src/(ui|instruments|features|app|session)/|^src/storage/(?!traces|log-files|database|archives|full|run-dossier)" } },
    { name: "session-knows-core", severity: "error", from: { path: "^src/session/" }, to: { path: "^src/(ui|storage|instruments|workers|features|app)/" } },
    { name: "instruments-know-core-and-workers", severity: "error", from: { path: "^src/instruments/" }, to: { path: "^src/(ui|storage|features|app|session)/" } },
    { name: "testing-is-for-tests", severity: "error", from: { path: "^src/", pathNot: "\\.test\\.tsx?$|^src/testing/" }, to: { path: "^src/testing/" } },
    { name: "cli-knows-core", severity: "error", from: { path: "^src/cli/" }, to: { path: "^src/(?!core/|cli/)" } },
  ],
  options: { doNotFollow: { path: "node_modules" }, tsPreCompilationDeps: true, tsConfig: { fileName: "tsconfig.json" }, enhancedResolveOptions: { extensions: [".ts", ".tsx", ".js", ".mjs"] } },
};
