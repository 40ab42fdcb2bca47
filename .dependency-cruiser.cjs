/** Who may import whom; docs/architecture.md says why. */
const outside = "^src/(?!core/)";
module.exports = {
  forbidden: [
    { name: "no-cycles", severity: "error", from: {}, to: { circular: true } },
    {
      name: "core-knows-only-core",
      severity: "error",
      from: { path: "^src/core/", pathNot: "\\.test\\.ts$" },
      to: { path: outside },
    },
    {
      name: "quantities-import-nothing",
      severity: "error",
      from: { path: "^src/core/quantities/", pathNot: "\\.test\\.ts$" },
      to: { path: "^src/(?!core/quantities/)" },
    },
    {
      name: "characteristics-import-quantities",
      severity: "error",
      from: { path: "^src/core/characteristics/", pathNot: "\\.test\\.ts$" },
      to: { path: "^src/(?!core/(quantities|characteristics)/)" },
    },
    {
      name: "no-sibling-procedures",
      severity: "error",
      from: { path: "^src/core/procedures/([^/]+)/", pathNot: "\.test\.ts$" },
      to: { path: "^src/core/procedures/[^/]+/", pathNot: "^src/core/procedures/($1|kit)/" },
    },
    {
      name: "kit-knows-no-procedure",
      severity: "error",
      from: { path: "^src/core/procedures/(kit/|contract)", pathNot: "\.test\.ts$" },
      to: { path: "^src/core/procedures/(?!kit/|contract)" },
    },
    {
      name: "measurement-is-vocabulary",
      severity: "error",
      from: { path: "^src/core/measurement/", pathNot: "\.test\.ts$" },
      to: { path: "^src/(?!core/(measurement|quantities|characteristics|instruments|cells|claims)/)" },
    },
    {
      name: "simulator-never-sees-analysis",
      severity: "error",
      from: { path: "^src/core/simulator/", pathNot: "\\.test\\.ts$" },
      to: { path: "^src/core/(procedures|verdicts|claims|files)/" },
    },
    {
      name: "procedures-never-see-simulator",
      severity: "error",
      from: { path: "^src/core/(procedures|verdicts|claims)/", pathNot: "\\.test\\.ts$" },
      to: { path: "^src/core/(simulator|rehearsal|demo|files)/" },
    },
    {
      name: "no-sibling-features",
      severity: "error",
      from: { path: "^src/features/([^/]+)/" },
      to: { path: "^src/features/[^/]+/", pathNot: "^src/features/$1/" },
    },
    {
      name: "ui-only-shows",
      severity: "error",
      from: { path: "^src/ui/" },
      to: { path: "^src/(storage|notebook|workers|ports|features|app)/" },
    },
    {
      name: "storage-knows-core",
      severity: "error",
      from: { path: "^src/storage/" },
      to: { path: "^src/(ui|notebook|workers|ports|features|app|browser)/" },
    },
    {
      name: "notebook-knows-core-and-storage",
      severity: "error",
      from: { path: "^src/notebook/" },
      to: { path: "^src/(ui|workers|ports|features|app|browser)/" },
    },
    {
      name: "workers-know-core-and-stored-logs",
      severity: "error",
      from: { path: "^src/workers/", pathNot: "\\.test\\.ts$" },
      to: {
        path: "^src/(ui|ports|features|app|browser)/|^src/storage/(?!traces|log-files|database|archives|full|derived|queries|pack-settled)|^src/notebook/(?!run-dossier|here|compute|board-work|analyse-run|sheet)",
      },
    },
    {
      name: "browser-knows-core",
      severity: "error",
      from: { path: "^src/browser/" },
      to: { path: "^src/(ui|storage|notebook|ports|workers|features|app)/" },
    },
    {
      name: "ports-know-core-and-workers",
      severity: "error",
      from: { path: "^src/ports/" },
      to: { path: "^src/(ui|storage|notebook|features|app|browser)/" },
    },
    {
      name: "testing-is-for-tests",
      severity: "error",
      from: { path: "^src/", pathNot: "\\.test\\.tsx?$|^src/testing/" },
      to: { path: "^src/testing/" },
    },
    { name: "cli-knows-core", severity: "error", from: { path: "^src/cli/" }, to: { path: "^src/(?!core/|cli/)" } },
  ],
  options: {
    doNotFollow: { path: "node_modules" },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: "tsconfig.json" },
    enhancedResolveOptions: { extensions: [".ts", ".tsx", ".js", ".mjs"] },
  },
};
