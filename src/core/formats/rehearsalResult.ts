import * as z from 'zod';

export const verdicts = ['home', 'no-progress', 'energy', 'terrain', 'lost-control', 'timeout'] as const;
export type Verdict = (typeof verdicts)[number];

export const trackPointSchema = z.object({
  atS: z.number(),
  lat: z.number(),
  lon: z.number(),
  heightM: z.number(),
  /** Ground under it, above the sea. */
  groundM: z.number(),
  airspeedMps: z.number(),
  groundspeedMps: z.number(),
  mode: z.string(),
  rollDeg: z.number(),
  pitchDeg: z.number(),
  yawDeg: z.number(),
});
export type TrackPoint = z.infer<typeof trackPointSchema>;

/** What a rehearsal found: the verdict, why, and the evidence. */
export interface RehearsalResult {
  readonly verdict: Verdict;
  readonly reason: string;
  readonly seconds: number;
  readonly endDistanceM: number;
  /** Nearest to home after the way home began (or at any time before it, when it never did). */
  readonly closestM: number;
  readonly usedWh: number;
  readonly lostLink: readonly { readonly atS: number; readonly state: string }[];
  /** What the board decided, in words, by seconds since the launch. */
  readonly decisions: readonly { readonly atS: number; readonly text: string }[];
  readonly track: readonly TrackPoint[];
}

/** The verdict in two or three words for a person. */
export const verdictWords: Readonly<Record<Verdict, string>> = {
  home: 'Comes home',
  'no-progress': 'Makes no way',
  energy: 'Battery empty',
  terrain: 'Hits the ground',
  'lost-control': 'Out of control',
  timeout: 'Still out',
};
