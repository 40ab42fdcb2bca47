"use client";

/** Notices, loaded when first needed. An error stays until it is put away. */
export async function notify(message: string, options: { kind?: "info" | "error"; action?: { label: string; run: () => void } } = {}): Promise<void> {
  const { toast } = await import("sonner");
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
    await notify((e as Error).message, { kind: "error" });
    return false;
  }
}
