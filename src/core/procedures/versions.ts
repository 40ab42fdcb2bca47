/**
 * The version of each procedure's analysis, apart from its code: whoever only asks whether kept findings are still good
 * loads no procedure. Raise a version when what its analysis gives for the same readings changes.
 */
export const PROCEDURE_VERSIONS = { "load-sweep": 1, "charge-cycle": 1, "charge-channels": 1 } as const satisfies Readonly<Record<string, number>>;

export const procedureVersion = (id: string): number => (PROCEDURE_VERSIONS as Readonly<Record<string, number>>)[id] ?? 0;
