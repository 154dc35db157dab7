/** Names of what may go wrong, and of where a flight is when it does. */
export const faultIds = [
  'nothing',
  'jammed',
  'position',
  'compass',
  'airspeed',
  'barometer',
  'gyro',
  'motor',
  'surface',
  'lead',
  'cell',
  'wind',
  'receiver',
  'several',
] as const;
export type FaultId = (typeof faultIds)[number];

export const phaseIds = ['launch', 'out', 'climb', 'way', 'home'] as const;
export type PhaseId = (typeof phaseIds)[number];
