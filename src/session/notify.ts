"use client";

type Asked = () => void;
let mounted = false;
let ready: Asked[] = [];
let wanted: Asked | null = null;

/** The shell hears here that a notice is to be shown, and mounts the place where notices appear. */
export function onNoticesWanted(mount: () => void): void {
  wanted = mount;
}
/** Said by that place once it stands; notices given before then are shown now. */
export function noticesStand(): void {
  mounted = true;
  ready.forEach((go) => go());
  ready = [];
}

const place = (): Promise<void> =>
  new Promise((resolve) => {
    if (mounted) resolve();
    else {
      ready.push(resolve);
      wanted?.();
    }
  });

/** Shows a notice; its place and the package that draws it are loaded with the first. An error stays until it is put away. */
export async function notify(message: string, options: { kind?: "info" | "error"; action?: { label: string; run: () => void } } = {}): Promise<void> {
  const [{ toast }] = await Promise.all([import("sonner"), place()]);
  const show = options.kind === "error" ? toast.error : toast;
  show(message, {
    duration: options.kind === "error" ? Infinity : 6000,
    ...(options.action ? { action: { label: options.action.label, onClick: options.action.run } } : {}),
  });
}

/** Runs something that may fail and says so in words; gives whether it went well. */
export async function attempt(act: () => Promise<void>): Promise<boolean> {
  try {
    await act();
    return true;
  } catch (e) {
    void notify((e as Error).message, { kind: "error" });
    return false;
  }
}
