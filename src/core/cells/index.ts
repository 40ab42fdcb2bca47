export { CHEMISTRIES, CHEMISTRY_LIMITS, type Chemistry, type ChemistryLimits } from "./chemistry";
export { openCircuit, stateOfCharge } from "./open-circuit";
