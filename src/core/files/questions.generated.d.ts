import type { CompiledValidator } from "./validators.generated";

export const fit: CompiledValidator;
export const station: CompiledValidator;
export const schedule: CompiledValidator;
export const match: CompiledValidator;
