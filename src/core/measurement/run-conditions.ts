/** The conditions of a run, named as in set-up files; SI. */
export interface RunConditions {
  readonly nominalOutput?: number;
  /** Share of the nominal output. */
  readonly regulationBand?: number;
  readonly programmedCurrent?: number;
  /** A at which the charger is claimed to end the charge. */
  readonly terminationCurrent?: number;
  readonly cellCapacity?: number;
  readonly ambientTemperature?: number;
  readonly supplyCurrentLimit?: number;
  readonly inputLeadResistance?: number;
  readonly outputLeadResistance?: number;
  /** A at which the load regulation is taken. */
  readonly ratedLoad?: number;
  readonly partLimitTemperature?: number;
  /** °C of its part at which a charger cuts its own current back. */
  readonly foldbackTemperature?: number;
  readonly dissipation?: number;
  /** Hz up to which an instrument follows a waveform, with its probe. */
  readonly bandwidth?: number;
  /** V of the battery, and A on the output, that a waveform was taken at. */
  readonly battery?: number;
  readonly load?: number;
  readonly state?: string;
  readonly usableCapacity?: number;
  readonly cellSelfDischargeCurrent?: number;
  /** W that a panel gives at its best voltage in the light of the log, where somebody measured it. */
  readonly panelMaximumPower?: number;
  /** Of the surface that an infrared thermometer looked at; absent for a probe. */
  readonly emissivity?: number;
  /** The voltage an adjustable output was set to. */
  readonly output?: number;
  /** Jumpers and programme resistor, in the words of the sample. */
  readonly configuration?: string;
}
