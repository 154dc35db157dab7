import * as z from 'zod';
import { type ActuatorId, type Airframe, actuatorsOf, motorIds, surfaceIds } from '../airframe/airframe.ts';
import type { BoardRef } from '../board/boardRef.ts';
import type { BoardDescription } from '../board/description.ts';
import type { BenchTruth } from '../formats/benchTruth.ts';
import { verdicts } from '../formats/rehearsalResult.ts';
import type { Scenario } from '../formats/scenario.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import type { Site } from '../site/site.ts';
import { sitePrint } from '../site/siteFile.ts';
import { crc32 } from '../wire/crc32.ts';

export const tilts = ['roll-right', 'roll-left', 'nose-up', 'nose-down'] as const;
export type Tilt = (typeof tilts)[number];
export const stickNames = ['roll', 'pitch', 'throttle', 'yaw'] as const;
export type StickName = (typeof stickNames)[number];

/** What a proof may rest on. */
const aspects = ['settings', 'craft', 'board', 'build', 'scenario', 'site'] as const;
export type Aspect = (typeof aspects)[number];

/** What has happened since when an aspect is no longer what it was. */
const aspectWords: Readonly<Record<Aspect, string>> = {
  settings: 'settings it rests on were changed',
  craft: 'the craft was changed',
  board: 'another board took its place',
  build: 'the craft was soldered or mounted anew',
  scenario: 'the wind, the way or the events were changed',
  site: 'it flies at another site, or over other ground',
};

/** Everything that proofs rest on, as it is now. */
export interface ProofWorld {
  readonly values: Values;
  readonly airframe: Airframe;
  readonly board: Pick<BoardRef, 'target' | 'serial'>;
  readonly description: BoardDescription | null;
  /** How the craft is truly built, where that is known. */
  readonly built: BenchTruth | undefined;
  readonly scenario: Scenario;
  readonly site: Site;
}

const outputNumber = z.number().int().min(1).max(32);

/** What was seen: by a person on the bench, or by a rehearsal. */
const seenSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('moved'),
    output: outputNumber,
    actuator: z.enum([...motorIds, ...surfaceIds]),
    /** Of a surface, where its trailing edge went first; of a motor, how it turned, where that was looked at. */
    first: z.enum(['down', 'up', 'left', 'right', 'turned', 'clockwise', 'anticlockwise']),
  }),
  z.object({ kind: z.literal('still'), output: outputNumber }),
  z.object({
    kind: z.literal('opposes'),
    tilt: z.enum(tilts),
    tiltDeg: z.number(),
    surfaces: z.array(z.enum(surfaceIds)).max(12),
  }),
  /** Some surface went along with a tilt, or stood still, instead of opposing it. */
  z.object({
    kind: z.literal('follows'),
    tilt: z.enum(tilts),
    tiltDeg: z.number(),
    wrong: z.array(z.enum(surfaceIds)).min(1).max(12),
  }),
  z.object({
    kind: z.literal('stick'),
    stick: z.enum(stickNames),
    channel: z.number().int().min(1).max(16),
    fromUs: z.number(),
    toUs: z.number(),
  }),
  z.object({
    kind: z.literal('flight'),
    verdict: z.enum(verdicts),
    /** Another seed ended otherwise. */
    luck: z.boolean(),
    seconds: z.number(),
  }),
  z.object({
    kind: z.literal('winds'),
    home: z.number().int().min(0),
    total: z.number().int().min(1),
  }),
]);
export type Seen = z.infer<typeof seenSchema>;
type SeenAs<K extends Seen['kind']> = Extract<Seen, { kind: K }>;

/** Something seen, with when, on which board, and a print of everything it rests on. */
export const proofSchema = z.object({
  id: z.string().max(60),
  at: z.string().max(40),
  /** Serial number of the board it was seen on. */
  board: z.string().max(60),
  rests: z.partialRecord(z.enum(aspects), z.string().max(16)),
  seen: seenSchema,
});
export type Proof = z.infer<typeof proofSchema>;
export type ProofState = 'none' | 'proven' | 'stale';

/** What a kind of proof is: the name it is kept under, and everything that it rests on. */
interface Declared<S> {
  /** A newer one of the same name takes its place. */
  readonly id: (seen: S) => string;
  readonly rests: (seen: S, w: ProofWorld) => Partial<Record<Aspect, unknown>>;
}

const named = (values: Values, pattern: RegExp) =>
  Object.fromEntries(Object.keys(values).flatMap((k) => (pattern.test(k) ? [[k, values[k]]] : [])));

const thisBoard = ({ board }: ProofWorld) => [board.target, board.serial];

/** An output that was tried by itself: what drives it, how, and what hangs on it. */
const output: Declared<SeenAs<'moved'> | SeenAs<'still'>> = {
  id: (seen) => `output.${seen.output}`,
  rests: ({ output: n }, w) => {
    const timer = w.description?.pads.find((p) => p.output === n)?.timer;
    const keys = [`out.${n}.drives`, `out.${n}.reversed`, `timer.${timer}.sends`];
    return {
      settings: keys.map((k) => w.values[k]),
      board: thisBoard(w),
      build: w.built?.pads.filter((p) => p.output === n),
    };
  },
};

/** A rehearsal rests on everything but the very board. */
const flown = (w: ProofWorld) => ({
  settings: w.values,
  craft: w.airframe,
  board: w.board.target,
  build: w.built,
  scenario: w.scenario,
  site: sitePrint(w.site),
});

/** A tilt that was tried: everything between the board's attitude and the surfaces. */
const against: Declared<SeenAs<'opposes'> | SeenAs<'follows'>> = {
  id: (seen) => `opposes.${seen.tilt}`,
  rests: (_, w) => ({
    settings: named(
      w.values,
      /^(out\.\d+\.(drives|reversed|low|centre|high)|timer\.\d+\.sends|mix\..*|mount\..*|imu\..*|craft\.kind)$/,
    ),
    craft: [w.airframe.kind, w.airframe.surfaces.map((s) => s.id)],
    board: thisBoard(w),
    build: w.built && [w.built.pads, w.built.mount],
  }),
};

const declared: { readonly [K in Seen['kind']]: Declared<SeenAs<K>> } = {
  moved: output,
  still: output,
  opposes: against,
  // What was seen to be wrong takes the place of what was seen to be right.
  follows: against,
  stick: {
    id: (seen) => `stick.${seen.stick}`,
    rests: ({ stick }, w) => ({
      settings: [
        settingOf(w.values, `rx.${stick}.channel`),
        settingOf(w.values, 'rx.protocol'),
        stick === 'pitch' ? settingOf(w.values, 'rx.pitch.pullHigh') : null,
      ],
      build: w.built && [w.built.channels[stick], w.built.receiver.protocol],
    }),
  },
  flight: { id: () => 'flight', rests: (_, w) => flown(w) },
  winds: {
    id: () => 'winds',
    // The rose brings its own winds, gusts and seeds.
    rests: (_, w) => {
      const { wind, seed, ...scenario } = w.scenario;
      return { ...flown(w), scenario };
    },
  },
};

const declarationOf = (seen: Seen) => declared[seen.kind] as Declared<Seen>;

const encoder = new TextEncoder();
/** A short name for what a value is, with its keys in order and numbers as exact as a board keeps them. */
function printOf(value: unknown): string {
  const text = JSON.stringify(value, (_key, v: unknown) => {
    if (typeof v === 'number') return Number(v.toPrecision(7));
    if (typeof v !== 'object' || v === null || Array.isArray(v)) return v;
    return Object.fromEntries(Object.entries(v).sort(([a], [b]) => (a < b ? -1 : 1)));
  });
  return crc32(encoder.encode(text ?? ''))
    .toString(16)
    .padStart(8, '0');
}

function restsNow(seen: Seen, w: ProofWorld): Proof['rests'] {
  const rests = Object.entries(declarationOf(seen).rests(seen, w));
  return Object.fromEntries(rests.map(([aspect, value]) => [aspect, printOf(value)]));
}

export function makeProof(seen: Seen, w: ProofWorld, at: string): Proof {
  return { id: declarationOf(seen).id(seen), at, board: w.board.serial, seen, rests: restsNow(seen, w) };
}

/** What a proof rests on that is no longer what it was; empty while it holds. */
export function changedSince(proof: Proof, w: ProofWorld): Aspect[] {
  const now = restsNow(proof.seen, w);
  return aspects.filter((a) => now[a] !== proof.rests[a]);
}

export function stateOf(proof: Proof | undefined, w: ProofWorld): ProofState {
  if (!proof || !isGood(proof)) return 'none';
  return changedSince(proof, w).length === 0 ? 'proven' : 'stale';
}

/** Why a proof no longer holds, as the end of a sentence; empty while it does. */
export function staleWords(proof: Proof | undefined, w: ProofWorld): string {
  return proof
    ? changedSince(proof, w)
        .map((a) => aspectWords[a])
        .join(', ')
    : '';
}

/**
 * A proof set with one more; an older one of the same name goes, and with a surface that follows a tilt what was said of
 * how it moves: one of the two cannot be so.
 */
export function withProof(proofs: readonly Proof[], proof: Proof): Proof[] {
  const { seen } = proof;
  const wrong: readonly string[] = seen.kind === 'follows' ? seen.wrong : [];
  return [
    ...proofs.filter(
      (p) => p.id !== proof.id && !(p.seen.kind === 'moved' && wrong.includes(p.seen.actuator)),
    ),
    proof,
  ];
}

/** Whether it is of something that is as it should be; what was seen to be wrong proves nothing. */
const isGood = ({ seen }: Proof): boolean => seen.kind !== 'follows';

/** The proof that an actuator was seen to move on the output that drives it. */
function movedProof(proofs: readonly Proof[], actuator: ActuatorId): Proof | undefined {
  return proofs.find((p) => p.seen.kind === 'moved' && p.seen.actuator === actuator);
}

/** Several proof states as one: the worst that is there, `none` while any is missing. */
export function together(states: readonly ProofState[]): ProofState {
  if (states.includes('stale')) return 'stale';
  return states.length > 0 && states.every((s) => s === 'proven') ? 'proven' : 'none';
}

/**
 * Whether every actuator of a craft was seen to answer the right way, and every other output that a pad has was asked as
 * well: what else moves with a stick is found only so.
 */
export function movesProven(proofs: readonly Proof[], w: ProofWorld): ProofState {
  const moved = actuatorsOf(w.airframe).map((id) => movedProof(proofs, id));
  const asked = (w.description?.pads ?? []).map((p) => proofs.find((x) => x.id === `output.${p.output}`));
  return together([...moved, ...asked].map((proof) => stateOf(proof, w)));
}

/** How many outputs of the board were asked and answered, and of how many. */
export function outputsAsked(proofs: readonly Proof[], w: ProofWorld): { asked: number; of: number } {
  const pads = w.description?.pads ?? [];
  const asked = pads.filter(
    (p) =>
      stateOf(
        proofs.find((x) => x.id === `output.${p.output}`),
        w,
      ) === 'proven',
  ).length;
  return { asked, of: pads.length };
}

/** Motors of rotors that were seen to turn the other way than the craft is described. */
export function turnsWrong(proofs: readonly Proof[], w: ProofWorld): ActuatorId[] {
  return w.airframe.motors.flatMap((m) => {
    const proof = movedProof(proofs, m.id);
    if (proof?.seen.kind !== 'moved' || stateOf(proof, w) !== 'proven') return [];
    const { first } = proof.seen;
    return (first === 'clockwise' || first === 'anticlockwise') && first !== m.spin ? [m.id] : [];
  });
}

/** Whether rehearsals came home on everything as it is now: `none` where the last ended otherwise. */
export function homeProven(id: 'flight' | 'winds', proofs: readonly Proof[], w: ProofWorld): ProofState {
  const proof = proofs.find((p) => p.id === id);
  const state = stateOf(proof, w);
  if (!proof || state !== 'proven') return state;
  const { seen } = proof;
  const home =
    seen.kind === 'flight'
      ? seen.verdict === 'home' && !seen.luck
      : seen.kind === 'winds' && seen.home === seen.total;
  return home ? 'proven' : 'none';
}
