/** Systems by the letters of their talkers and the numbers that GSA has for them. */
export const systems = [
  { letter: 'G', talker: 'GP', number: 1 },
  { letter: 'E', talker: 'GA', number: 3 },
  { letter: 'C', talker: 'GB', number: 4 },
] as const;
export type SystemLetter = (typeof systems)[number]['letter'];

/** One satellite as GSV tells it. */
export interface SatelliteView {
  readonly system: SystemLetter;
  readonly id: number;
  readonly elevationDeg: number;
  readonly azimuthDeg: number;
  /** Carrier to noise, dB Hz; 0 when not tracked. */
  readonly strength: number;
  readonly used: boolean;
}
