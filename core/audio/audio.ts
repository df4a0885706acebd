/** Average of music as a share of rated power: IEC 60065's test condition, and what heavily compressed music reaches (common practice, no source). */
export const MUSIC = { usual: 1 / 8, loud: 1 / 3 } as const;

export interface AudioSupply {
  averageA: number;
  peakA: number;
}
/** Amperes that an amplifier draws: on average for music, and at rated power. `efficiency` of class D is 0.8 to 0.9. */
export const audioSupply = (ratedW: number, efficiency: number, musicFactor: number, systemV: number): AudioSupply => ({
  averageA: (ratedW * musicFactor) / efficiency / systemV,
  peakA: ratedW / efficiency / systemV,
});

/** Sound level in dB at a distance: sensitivity at 1 W and 1 m, 10·log10 of the watts, less 20·log10 of the meters. Free field. */
export const audioLevel = (sensitivityDb: number, watts: number, distanceM: number): number =>
  sensitivityDb + 10 * Math.log10(watts) - 20 * Math.log10(distanceM);
