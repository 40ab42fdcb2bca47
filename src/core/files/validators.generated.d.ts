import type { ErrorObject } from "ajv";

export interface CompiledValidator {
  (data: unknown): boolean;
  errors?: ErrorObject[] | null;
}
export const notebook: CompiledValidator;
export const rules: CompiledValidator;
export const rig: CompiledValidator;
export const instrument: CompiledValidator;
export const need: CompiledValidator;
export const load: CompiledValidator;
export const pack: CompiledValidator;
export const station: CompiledValidator;
export const feed: CompiledValidator;
export const cellCharge: CompiledValidator;
export const day: CompiledValidator;
export const issued: CompiledValidator;
export const board: CompiledValidator;
export const claim: CompiledValidator;
export const cell: CompiledValidator;
export const sample: CompiledValidator;
export const photo: CompiledValidator;
export const file: CompiledValidator;
export const run: CompiledValidator;
export const point: CompiledValidator;
export const answer: CompiledValidator;
export const cellReading: CompiledValidator;
export const annotation: CompiledValidator;
export const manifest: CompiledValidator;
export const conflict: CompiledValidator;
