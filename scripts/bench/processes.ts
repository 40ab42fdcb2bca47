import { readdirSync, readFileSync } from "node:fs";

/** Resident memory of the largest renderer of a browser now, or the most it ever had, MB. The page and its workers live in one. */
export function memory(browserPid: number, what: "VmRSS" | "VmHWM"): number {
  const read = (pid: string, file: string): string => {
    try {
      return readFileSync(`/proc/${pid}/${file}`, "utf8");
    } catch {
      return "";
    }
  };
  const all = readdirSync("/proc").filter((d) => /^\d+$/.test(d));
  const parent = new Map(all.map((pid) => [pid, /\) \S (\d+)/.exec(read(pid, "stat"))?.[1] ?? ""]));
  const under = (pid: string): boolean =>
    pid === String(browserPid) || (pid !== "" && pid !== "0" && pid !== "1" && under(parent.get(pid) ?? ""));
  const renderers = all.filter((pid) => under(pid) && read(pid, "cmdline").includes("--type=renderer"));
  return Math.max(
    0,
    ...renderers.map((pid) => Number(new RegExp(`${what}:\\s+(\\d+)`).exec(read(pid, "status"))?.[1]) / 1024),
  );
}

/** A browser's main process that this script started. */
function isBrowser(pid: number): boolean {
  try {
    const command = readFileSync(`/proc/${pid}/cmdline`, "utf8");
    return command.includes("chromium") && command.includes("--remote-debugging") && !command.includes("--type=");
  } catch {
    return false;
  }
}

/** The main process of the one browser that this script has started. */
export const mainProcess = (): number =>
  Number(readdirSync("/proc").find((d) => /^\d+$/.test(d) && isBrowser(Number(d))));

/** Begins to watch how far the largest renderer grows over what it had when it began; the answer tells it, MB. */
export function growing(browserPid: number): () => number {
  let [first, most] = [0, 0];
  const timer = setInterval(() => {
    const now = memory(browserPid, "VmRSS");
    if (!first && now > 60) first = now;
    most = Math.max(most, now);
  }, 100);
  return () => {
    clearInterval(timer);
    return most - first;
  };
}
