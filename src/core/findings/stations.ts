/** The walk: seven legs, and the stations of each in the order people do them. */
export const legIds = ['build', 'sense', 'steer', 'return', 'refine', 'rehearse', 'field'] as const;
export type LegId = (typeof legIds)[number];

export const stationIds = [
  'board',
  'keep',
  'firmware',
  'airframe',
  'wiring',
  'starting-values',
  'which-moved',
  'sticks',
  'switches',
  'opposes',
  'lost-link',
  'way-home',
  'one-flight',
  'many-winds',
  'trust',
] as const; // prettier-ignore
export type StationId = (typeof stationIds)[number];

interface Leg {
  readonly id: LegId;
  readonly name: string;
  readonly stations: readonly { readonly id: StationId; readonly name: string }[];
  /** For a leg without stations yet: what it will be for, in one honest sentence. */
  readonly later?: string;
}

export const legs: readonly Leg[] = [
  {
    id: 'build',
    name: 'Build',
    stations: [
      { id: 'board', name: 'Who is there' },
      { id: 'keep', name: 'What was kept' },
      { id: 'firmware', name: 'Firmware' },
      { id: 'airframe', name: 'The craft' },
      { id: 'wiring', name: 'Wiring' },
      { id: 'starting-values', name: 'Starting values' },
    ],
  },
  {
    id: 'sense',
    name: 'Sense',
    stations: [],
    later:
      'Teaching the board its attitude, its compass and its position is not built yet; until then set these by name with Find anything.',
  },
  {
    id: 'steer',
    name: 'Steer',
    stations: [
      { id: 'which-moved', name: 'Which one moved?' },
      { id: 'sticks', name: 'Sticks' },
      { id: 'switches', name: 'Switches to modes' },
      { id: 'opposes', name: 'Does it oppose a tilt?' },
    ],
  },
  {
    id: 'return',
    name: 'Return',
    stations: [
      { id: 'lost-link', name: 'When the link is lost' },
      { id: 'way-home', name: 'The way home' },
    ],
  },
  {
    id: 'refine',
    name: 'Refine',
    stations: [],
    later:
      'Tuning of loops and filters is not built yet; the starting values are computed from the craft and rehearsals fly with them.',
  },
  {
    id: 'rehearse',
    name: 'Rehearse',
    stations: [
      { id: 'one-flight', name: 'One flight' },
      { id: 'many-winds', name: 'In many winds' },
      { id: 'trust', name: 'How far to trust it' },
    ],
  },
  {
    id: 'field',
    name: 'Field',
    stations: [],
    later: 'The checks on the field, the reading of logs and the search for a lost craft are not built yet.',
  },
];

export function stationLeg(id: StationId): LegId {
  return legs.find((l) => l.stations.some((s) => s.id === id))!.id;
}
