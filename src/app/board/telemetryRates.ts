import { isGroup } from '#core/wire/telemetry.ts';

/** How often each group is asked for, Hz. What a board tells of its own is read by a person. */
const RATES = {
  attitude: 50,
  outputs: 50,
  receiver: 25,
  power: 4,
  charge: 2,
  navigation: 4,
  home: 4,
  estimates: 4,
  sky: 2,
  services: 1,
  radio: 5,
  motors: 5,
  answers: 10,
  dials: 5,
  tune: 2,
  trim: 2,
  overlay: 5,
  tells: 2,
  signals: 20,
  video: 2,
  status: 10,
} as const;
const OTHERS_HZ = 1;

/** How often a group is asked for, Hz; one that the board adds of its own as well. */
export const rateOf = (group: string): number => (isGroup(group) ? RATES[group] : OTHERS_HZ);
