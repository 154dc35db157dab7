import type { UnitId } from '../units/units.ts';

/** What a person looks at on the way to the strip, and says. */
export const lookedAt = [
  'balance',
  'packed',
  'lead',
  'radio-on',
  'battery-in',
  'sky',
  'tilt',
  'sticks-move',
  'range',
  'arrow',
  'wind',
  'clear',
  'armed',
  'flown-level',
  'flown-arrow',
  'flown-return',
  'flown-again',
  'flown-radio-off',
  'off',
  'warm',
  'learnt',
] as const;
export type LookedAt = (typeof lookedAt)[number];

/** The first flights of a craft, in the order in which they are flown: each holds until something is changed that it rests on. */
export const firstFlights = [
  'flown-level',
  'flown-arrow',
  'flown-return',
  'flown-again',
  'flown-radio-off',
] as const satisfies readonly LookedAt[];
export const isFirstFlight = (line: string): boolean => (firstFlights as readonly string[]).includes(line);

/** What is measured when a line is looked at. */
export interface LookFigure {
  /** What the figure is. */
  readonly name: string;
  readonly unit: UnitId;
  /** It is well from here on. */
  readonly least: number;
  readonly most: number;
  readonly step: number;
}

/**
 * Across a lead with its capacitors an ohmmeter climbs well past this within seconds; a short stays under one ohm. At its weakest a transmitter
 * reaches thirty metres and more where it reaches kilometres at full power. Both ours.
 */
export const lookFigures: Readonly<Partial<Record<LookedAt, LookFigure>>> = {
  lead: { name: 'Across the lead', unit: 'ohm', least: 100, most: 10_000_000, step: 100 },
  range: { name: 'Still follows at', unit: 'm', least: 30, most: 5000, step: 5 },
};
