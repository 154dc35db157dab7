import type { Abilities, RequestKind } from '#core/wire/messages.ts';
import { type TelemetryGroup, telemetryGroups } from '#core/wire/telemetry.ts';

/** What the application asks of boards beyond being met and read, in words that follow "it cannot". */
const asks: Readonly<Partial<Record<RequestKind, string>>> = {
  describe: 'say what it is made of',
  'self-test': 'say who answers on its buses and ports',
  'write-begin': 'be written to from here',
  subscribe: 'tell anything while it runs',
  'bench-move': 'move an output by hand',
  'procedure-start': 'learn anything by itself, such as which channel a stick moves',
  'plan-begin': 'keep a route and fences',
  heard: 'show what comes at its ports',
  restart: 'be restarted from here',
  'enter-loader': 'be given another firmware from here',
};

const tells: Readonly<Record<TelemetryGroup, string>> = {
  attitude: 'tell how it lies',
  outputs: 'tell what goes to its outputs',
  receiver: 'tell what its receiver hears',
  power: 'tell its voltages',
  charge: 'tell how its battery stands against the way home',
  navigation: 'tell where it is',
  home: 'tell where home is',
  estimates: 'tell how sure it is',
  sky: 'tell which satellites it sees',
  services: 'tell what it counts of itself and its bus',
  answers: 'tell what its rotors would be given while they stand still',
  motors: 'pass on what motor controllers tell',
  radio: 'tell what comes to its receiver’s port',
  dials: 'tell what its dials give',
  tune: 'find gains in flight',
  trim: 'learn its trim in flight',
  overlay: 'tell what it writes over the picture',
  tells: 'tell what it sends back to the transmitter',
  video: 'tell a video transmitter where to send',
  signals: 'tell what its lamps and its buzzer do',
  status: 'tell its mode and what keeps it from arming',
};

/** What a board cannot do of all that is asked here, each to follow "it cannot". */
export function lackingOf(can: Abilities): string[] {
  const kinds = Object.entries(asks).filter(([kind]) => !can.requests.includes(kind));
  const groups = telemetryGroups.filter((g) => !can.telemetry.includes(g));
  return [...kinds.map(([, words]) => words), ...groups.map((g) => tells[g])];
}

/** Why something cannot be asked of a board, as a sentence; null where it can be. */
export function whyNotAsked(can: Abilities, what: readonly (RequestKind | TelemetryGroup)[]): string | null {
  const known = [...can.requests, ...can.telemetry];
  const first = what.find((w) => !known.includes(w));
  if (!first) return null;
  const words = asks[first as RequestKind] ?? tells[first as TelemetryGroup] ?? `answer "${first}"`;
  return `The firmware of this board cannot ${words}, so there is nothing to be done here with it.`;
}
