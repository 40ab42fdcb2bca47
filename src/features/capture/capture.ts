import type { Point, PointSettings, RoleReading, Recovery, Role } from "@/core/measurement";
import type { Proposal, Remark, StopRule } from "@/core/procedures";
import type { PointRecord } from "@/core/files/records";
import type { PortReading } from "@/ports";

export interface LiveState {
  readonly reading: PortReading | null;
  /** s that the present settings have stood, on the bench's clock. */
  readonly dwell: number;
  readonly steady: boolean;
}

/** What has to be answered before a point is kept. */
export interface Asked {
  readonly questions: readonly Remark[];
  /** It may be kept as it was read. */
  readonly keepable: boolean;
}

export interface Capture {
  readonly proposal: Proposal;
  readonly settings: PointSettings;
  readonly live: LiveState;
  readonly remarks: readonly Remark[];
  /** Readings that can hardly be right wait for an answer. */
  readonly asked: Asked | null;
  /** A field whose text was replaced by what was meant. */
  /** A point that the browser had no room for: it stays in the fields until it is stored. */
  readonly held: PointRecord | null;
  readonly retyped: { readonly role: Role; readonly text: string } | null;
  readonly stopped: StopRule | null;
  readonly auto: boolean;
  readonly muted: boolean;
  readonly pace: number;
  readonly busy: boolean;
  readonly portError: string | null;
  /** The bench has stopped answering; what is shown is old. */
  readonly silent: string | null;
  /** The bench was made safe and is being set again: no point can be taken yet. */
  readonly settingAgain: boolean;
  readonly sets: boolean;
  readonly canPace: boolean;
  /** What is proposed may do harm and waits for `confirm`. */
  readonly unconfirmed: boolean;
  confirm(): void;
  setOverride(s: PointSettings | null): void;
  setAuto(on: boolean): void;
  setMuted(on: boolean): void;
  setPace(factor: number): void;
  take(): void;
  /** Keeps the point that was asked about as it was read. */
  takeAsRead(): void;
  /** Puts what was most likely meant in the place of what was asked about first, and takes the point. */
  takeAsMeant(): void;
  correct(pointId: string, anew: Readonly<Partial<Record<Role, number | null>>>, why: string): Promise<boolean>;
  undo(): void;
  /** The last point for an act on it; null while a newer one is on its way. */
  lastShown(): Point | null;
  leaveOut(pointId: string, reason: string): Promise<boolean>;
  count(pointId: string): Promise<boolean>;
  recovered(word: Recovery): void;
  watch(): void;
  closeColumn(): void;
  clearStop(): void;
  enter(role: Role, cell: RoleReading, typed: Readonly<Partial<Record<Role, string>>>): void;
  addPasted(
    rows: readonly { readonly cells: PointRecord["cells"]; readonly settings: PointSettings }[],
  ): Promise<boolean>;
}
