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
  'off',
  'warm',
  'learnt',
] as const;
export type LookedAt = (typeof lookedAt)[number];
