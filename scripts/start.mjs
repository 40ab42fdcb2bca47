/** npm run demo / npm start: installs what is missing, builds, starts, prints the address. */
import { answering, build, HOST, installPackages, PORT, portFree, serve } from "./setup.mjs";

const demo = process.argv.includes("--demo");
if (!(await portFree(PORT))) {
  console.error(`Port ${PORT} on ${HOST} is taken. Nimbus Bench keeps its data under this very address, so it does not move to another one.
End what listens there (it may be Nimbus Bench itself, already running at http://${HOST}:${PORT}/), then start again.`);
  process.exit(1);
}
installPackages();
if (build() !== 0) process.exit(1);
const server = serve(PORT, demo ? { NIMBUS_DEMO: "1" } : {});
const end = () => server.kill("SIGTERM");
process.on("SIGINT", end);
process.on("SIGTERM", end);
server.on("exit", (code) => process.exit(code ?? 0));
await answering(`http://${HOST}:${PORT}/`);
console.log(`\nNimbus Bench${demo ? " with demo data" : ""} is at http://${HOST}:${PORT}/   (Ctrl C ends it)`);
