/** What the chemistries of the drawer allow, in V; single cells. */
export const CHEMISTRIES = ["lithium-ion", "iron-phosphate"] as const;
export type Chemistry = (typeof CHEMISTRIES)[number];

export interface ChemistryLimits {
  readonly label: string;
  /** A full voltage above this is a danger, whatever was claimed. */
  readonly maximum: number;
  /** Full by the usual charger. */
  readonly full: number;
  readonly nominal: number;
  readonly empty: number;
  /** Deeper than this a cell is rejected. */
  readonly rejectFloor: number;
}

export const CHEMISTRY_LIMITS: Readonly<Record<Chemistry, ChemistryLimits>> = {
  "lithium-ion": { label: "lithium-ion, 4.2 V", maximum: 4.25, full: 4.2, nominal: 3.65, empty: 3, rejectFloor: 2 },
  "iron-phosphate": {
    label: "lithium iron phosphate, 3.6 V",
    maximum: 3.7,
    full: 3.6,
    nominal: 3.25,
    empty: 2.5,
    rejectFloor: 1.8,
  },
};
