export { CHEMISTRIES, CHEMISTRY_LIMITS, type Chemistry, type ChemistryLimits } from "./chemistry";
export { openCircuit, stateOfCharge } from "./open-circuit";
export { restDrop, type RestDrop, type RestReading } from "./rest-drop";
export { cellCode, readCode } from "./code";
export { rejection, sinceCharge, triage, type CellLook, type Measured, type Triage, type TriageCell, type TriageReason, type TriageRules } from "./triage";
