import * as z from 'zod';

/** How a flight ended. `home` alone is good. */
export const verdicts = [
  'home',
  'not-flown',
  'lost-control',
  'broken',
  'terrain',
  'bad-landing',
  'elsewhere',
  'no-progress',
  'astray',
  'energy',
  'timeout',
  'invalid',
] as const;
export type Verdict = (typeof verdicts)[number];

/** What made it end so: the first thing that went wrong. */
const causes = [
  'nothing',
  'arming',
  'launch',
  'wiring',
  'mounting',
  'balance',
  'gains',
  'device',
  'estimate',
  'setting',
  'power',
  'wind',
  'ground',
  'structure',
  'pilot',
  'bench',
] as const;
export type Cause = (typeof causes)[number];

const trackPointSchema = z.object({
  atS: z.number(),
  lat: z.number(),
  lon: z.number(),
  heightM: z.number(),
  /** Ground under it, above the sea. */
  groundM: z.number(),
  airspeedMps: z.number(),
  /** As the craft's own tube told it; left out where there is none. */
  toldAirspeedMps: z.number().optional(),
  groundspeedMps: z.number(),
  mode: z.string(),
  rollDeg: z.number(),
  pitchDeg: z.number(),
  yawDeg: z.number(),
});
export type TrackPoint = z.infer<typeof trackPointSchema>;

/** How near to an edge a flight went: the least of each while it flew. */
const marginsSchema = z.object({
  /** Over the ground between launch and landing, m. */
  clearanceM: z.number(),
  /** Battery left at the end, share. */
  batteryShare: z.number(),
  /** The same when it came above home by itself; left out where it did not. */
  arrivalShare: z.number().optional(),
  /** Greatest mean wind over what the craft makes through the air on the way home, share. */
  windShare: z.number(),
  /** Greatest error of the attitude it believed, degrees. */
  attitudeOffDeg: z.number(),
  /** Touch-down down and aside over what it bears, share; 0 in the air. */
  touchShare: z.number(),
});
export type Margins = Readonly<z.infer<typeof marginsSchema>>;

/** How the same flight ended with another seed. */
const otherSeedSchema = z.object({ seed: z.number(), verdict: z.enum(verdicts), reason: z.string() });
export type OtherSeed = Readonly<z.infer<typeof otherSeedSchema>>;

/** What a rehearsal found: the verdict, why, and the evidence. */
export const rehearsalResultSchema = z
  .object({
    verdict: z.enum(verdicts),
    reason: z.string(),
    cause: z.enum(causes),
    /** The moment the reason rests on, s since the launch. */
    causeAtS: z.number(),
    /** Keys of settings that would have changed the end, most telling first. */
    settings: z.array(z.string()).readonly(),
    margins: marginsSchema,
    /** Edges it came near to, each in a sentence; empty when it kept clear of them. */
    near: z.array(z.string()).readonly(),
    seconds: z.number(),
    endDistanceM: z.number(),
    /** Nearest to home after the way home began (or at any time before it, when it never did). */
    closestM: z.number(),
    usedWh: z.number(),
    lostLink: z.array(z.object({ atS: z.number(), state: z.string() }).readonly()).readonly(),
    /** What the board decided, in words, by seconds since the launch. */
    decisions: z.array(z.object({ atS: z.number(), text: z.string() }).readonly()).readonly(),
    track: z.array(trackPointSchema).readonly(),
    /** The same flight with other seeds; left out when they were not flown. */
    others: z.array(otherSeedSchema).readonly().optional(),
  })
  .readonly();
export type RehearsalResult = z.infer<typeof rehearsalResultSchema>;

/** The verdict in two or three words for a person. */
export const verdictWords: Readonly<Record<Verdict, string>> = {
  home: 'Comes home',
  'not-flown': 'Did not take off',
  'lost-control': 'Out of control',
  broken: 'Breaks in the air',
  terrain: 'Hits the ground',
  'bad-landing': 'Lands badly',
  elsewhere: 'Comes down elsewhere',
  'no-progress': 'Makes no way',
  astray: 'Goes astray',
  energy: 'Out of power',
  timeout: 'Still out',
  invalid: 'No verdict',
};

/** Seeds after its own that a single flight is flown with, to tell luck. */
export const OTHER_SEEDS = 4;

/** Whether other seeds end otherwise, in a sentence; null when they agree or were not flown. */
export function luckOf(result: Pick<RehearsalResult, 'verdict' | 'others'>): string | null {
  const others = result.others ?? [];
  const against = others.filter((o) => (o.verdict === 'home') !== (result.verdict === 'home'));
  if (against.length === 0) return null;
  const flown = others.length + 1;
  const home = others.filter((o) => o.verdict === 'home').length + (result.verdict === 'home' ? 1 : 0);
  const other = against[0]!;
  return `Luck decides: of ${flown} seeds of the same flight ${home} ${home === 1 ? 'comes' : 'come'} home. With seed ${other.seed}: ${verdictWords[other.verdict].toLowerCase()}. ${other.reason}`;
}
