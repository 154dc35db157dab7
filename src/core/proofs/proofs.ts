import * as z from 'zod';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import type { BoardRef } from '../board/boardRef.ts';
import type { BoardDescription } from '../board/description.ts';
import { isFirstFlight } from '../field/looks.ts';
import type { BenchTruth } from '../formats/benchTruth.ts';
import type { Scenario } from '../formats/scenario.ts';
import type { FlightPlan } from '../plan/plan.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import type { Site } from '../site/site.ts';
import { sitePrint } from '../site/siteFile.ts';
import { crc32 } from '../wire/crc32.ts';
import { type Seen, type SeenAs, seenSchema } from './seen.ts';

/** What a proof may rest on. */
const aspects = ['settings', 'craft', 'board', 'firmware', 'build', 'scenario', 'site', 'plan'] as const;
export type Aspect = (typeof aspects)[number];

/** What has happened since when an aspect is no longer what it was. */
const aspectWords: Readonly<Record<Aspect, string>> = {
  settings: 'settings it rests on were changed',
  craft: 'the craft was changed',
  board: 'another board took its place',
  firmware: 'the board has another firmware',
  build: 'the craft was soldered or mounted anew',
  scenario: 'the wind, the way or the events were changed',
  site: 'it flies at another site, or over other ground',
  plan: 'the route or the fences were changed',
};

/** Everything that proofs rest on, as it is now. */
export interface ProofWorld {
  readonly values: Values;
  readonly airframe: Airframe;
  readonly board: Pick<BoardRef, 'target' | 'serial' | 'firmware' | 'version'>;
  readonly description: BoardDescription | null;
  /** How the craft is truly built, where that is known. */
  readonly built: BenchTruth | undefined;
  readonly scenario: Scenario;
  readonly site: Site;
  /** Route and fences. */
  readonly plan?: FlightPlan | undefined;
}

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
  settings: flightSettings(w.values),
  craft: w.airframe,
  board: w.board.target,
  build: w.built,
  scenario: w.scenario,
  site: sitePrint(w.site),
  // Fences are met by every flight; a route only by those that fly it.
  ...(w.plan && w.plan.fences.length > 0 ? { plan: w.plan.fences } : {}),
});

/** All that a flight rests on: what stands over the picture changes none. */
const flightSettings = (values: Values): Values =>
  Object.fromEntries(Object.entries(values).filter(([key]) => !key.startsWith('overlay.')));

/** A tilt that was tried: everything between the board's attitude and the surfaces. */
const against: Declared<SeenAs<'opposes'> | SeenAs<'follows'>> = {
  id: (seen) => `opposes.${seen.tilt}`,
  rests: (_, w) => ({
    settings: named(
      w.values,
      /^(out\.\d+\.(drives|reversed|low|centre|high|arm\w+|turns)|timer\.\d+\.sends|mix\..*|mount\..*|imu\..*|craft\.kind)$/,
    ),
    craft: [
      w.airframe.kind,
      w.airframe.surfaces.map((s) => s.id),
      isRotorcraft(w.airframe) && w.airframe.motors,
    ],
    board: thisBoard(w),
    build: w.built && [w.built.pads, w.built.mount],
  }),
};

/** What a chip feels: of this board, as it is mounted. */
const onChip = (w: ProofWorld) => ({ board: thisBoard(w), build: w.built?.mount });

/** What a compass feels: where it lies, what it was taught, and where on earth. */
const onCompass = (w: ProofWorld) => ({
  board: thisBoard(w),
  build: w.built && [w.built.mount, w.built.compassMount, w.built.iron],
  settings: named(w.values, /^(compass\..*|mount\.(roll|pitch|yaw))$/),
  site: [w.site.home.lat, w.site.home.lon].map((deg) => Math.round(deg)),
});

/** How the board measures current, however that was seen. */
const current = (id: 'amps' | 'charge'): Declared<SeenAs<'amps'> | SeenAs<'charge'>> => ({
  id: () => id,
  rests: (_, w) => ({
    board: thisBoard(w),
    build: w.built?.currentSense,
    settings: named(w.values, /^battery\.current/),
  }),
});

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
  'stick-ends': {
    id: () => 'stick-ends',
    rests: (_, w) => ({
      settings: named(w.values, /^rx\.(protocol|deadband|\w+\.(low|middle|high|channel))$/),
      build: w.built && [w.built.transmitter, w.built.receiver.protocol, w.built.channels],
    }),
  },
  receiver: {
    id: () => 'receiver',
    rests: (_, w) => ({
      settings: named(w.values, /^(rx\.(protocol|levels|wires)|port\.\d+\.use)$/),
      board: thisBoard(w),
      build: w.built && [
        [w.built.receiver.protocol, w.built.receiver.turned, w.built.receiver.oneWire],
        w.built.ports.receiver,
      ],
    }),
  },
  arming: {
    id: ({ tried }) => `arming.${tried}`,
    rests: (_, w) => ({
      settings: named(w.values, /^(arm\..*|rx\.(protocol|throttle\.(channel|low|high)))$/),
      board: thisBoard(w),
      build: w.built && [w.built.channels.arm, w.built.channels.throttle],
    }),
  },
  silence: {
    id: () => 'silence',
    rests: (_, w) => ({
      settings: named(w.values, /^(rx\.(protocol|lossBelow|quality\..*|throttle\.channel)|port\.\d+\.use)$/),
      build: w.built && [w.built.receiver, w.built.ports.receiver],
    }),
  },
  controller: {
    id: ({ output: n }) => `controller.${n}`,
    rests: ({ output: n }, w) => {
      const timer = w.description?.pads.find((p) => p.output === n)?.timer;
      const motor = w.built?.pads.find((p) => p.output === n)?.actuator;
      return {
        settings: [w.values[`out.${n}.drives`], w.values[`timer.${timer}.sends`]],
        build: w.built && motor,
      };
    },
  },
  'ends-taught': {
    id: () => 'ends-taught',
    rests: ({ outputs }, w) => ({
      settings: outputs.map((n) => {
        const timer = w.description?.pads.find((p) => p.output === n)?.timer;
        return [`out.${n}.drives`, `out.${n}.low`, `out.${n}.high`, `timer.${timer}.sends`].map(
          (k) => w.values[k],
        );
      }),
      build: w.built?.pads.filter((p) => outputs.includes(p.output)),
    }),
  },
  throw: {
    id: (seen) => `throw.${seen.surface}`,
    rests: ({ surface, output: n }, w) => ({
      settings: [settingOf(w.values, `out.${n}.drives`)],
      craft: w.airframe.surfaces.find((s) => s.id === surface),
      build: w.built && [
        w.built.pads.filter((p) => p.output === n),
        w.built.linkages.filter((l) => l.surface === surface),
      ],
    }),
  },
  held: { id: (seen) => seen.as, rests: (_, w) => onChip(w) },
  mounted: {
    id: () => 'mounted',
    rests: (_, w) => ({ ...onChip(w), settings: named(w.values, /^(mount\.(roll|pitch|yaw)|imu\.use)$/) }),
  },
  accel: {
    id: (seen) => `accel.${seen.chip}`,
    rests: ({ chip }, w) => ({
      board: thisBoard(w),
      build: w.built?.accels,
      settings: named(w.values, new RegExp(`^accel\\.${chip}\\.`)),
    }),
  },
  'gyro-rest': { id: (seen) => `gyro.${seen.chip}`, rests: (_, w) => ({ board: thisBoard(w) }) },
  shake: {
    id: () => 'shake',
    rests: (_, w) => ({
      board: thisBoard(w),
      craft: [w.airframe.motors, w.airframe.massKg],
      settings: named(w.values, /^(imu\.use|gyro\..*)$/),
    }),
  },
  levelled: {
    id: () => 'levelled',
    rests: (_, w) => ({
      ...onChip(w),
      settings: named(w.values, /^(mount\.(?!forward|right|up).*|imu\.use|accel\..*)$/),
    }),
  },
  fix: {
    id: () => 'fix',
    rests: (_, w) => ({
      board: thisBoard(w),
      build: w.built && [w.built.gnss.swapped, w.built.gnssBaud, w.built.ports.gnss],
      settings: named(w.values, /^(gnss\.(baud|rate|view|systems)|port\.\d+\.use)$/),
    }),
  },
  compass: { id: () => 'compass', rests: (_, w) => onCompass(w) },
  'compass-current': {
    id: () => 'compass-current',
    rests: (_, w) => ({ ...onCompass(w), craft: [w.airframe.motors, w.airframe.battery] }),
  },
  volts: {
    id: () => 'volts',
    rests: (_, w) => ({
      board: thisBoard(w),
      build: w.built?.voltageScale,
      settings: settingOf(w.values, 'battery.scale'),
    }),
  },
  amps: current('amps'),
  charge: current('charge'),
  sag: { id: () => 'sag', rests: (_, w) => ({ craft: w.airframe.battery, board: thisBoard(w) }) },
  baro: { id: () => 'baro', rests: (_, w) => ({ board: thisBoard(w), build: w.built?.baroShielded }) },
  slipstream: {
    id: () => 'slipstream',
    rests: (_, w) => ({ board: thisBoard(w), build: w.built?.baroShielded, craft: w.airframe.lengthM }),
  },
  range: {
    id: () => 'range',
    rests: (_, w) => ({ board: thisBoard(w), settings: named(w.values, /^range\./) }),
  },
  flow: {
    id: () => 'flow',
    rests: (_, w) => ({
      board: thisBoard(w),
      build: w.built?.flowScale,
      settings: named(w.values, /^(flow\..*|mount\.(roll|pitch|yaw))$/),
    }),
  },
  tube: {
    id: () => 'tube',
    rests: (_, w) => ({
      board: thisBoard(w),
      build: w.built && [w.built.pitotTube, w.built.pitotZero],
      settings: [settingOf(w.values, 'pitot.zero'), settingOf(w.values, 'pitot.fitted')],
    }),
  },
  'tube-scale': {
    id: () => 'tube-scale',
    rests: (_, w) => ({ build: w.built?.pitotScale, settings: settingOf(w.values, 'pitot.scale') }),
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
  'lost-drill': {
    id: () => 'lost-drill',
    rests: (_, w) => ({
      settings: named(
        w.values,
        /^(lost\.(notice|guard|steady|stick)|rx\.(protocol|lossBelow|quality\..*)|port\.\d+\.use)$/,
      ),
      build: w.built && [w.built.receiver, w.built.ports.receiver],
      board: w.board.target,
      firmware: [w.board.firmware, w.board.version],
    }),
  },
  'home-arrow': {
    id: () => 'home-arrow',
    rests: (_, w) => ({
      settings: named(w.values, /^(compass|mount|home|gnss)\.|^arm\.(satellites|needFix)$/),
      board: thisBoard(w),
      build: w.built && [w.built.mount, w.built.iron, w.built.gnss],
    }),
  },
  arrival: {
    id: () => 'arrival',
    // In winds from all sides: of the scenario only how strong they are.
    rests: (_, w) => ({ ...flown(w), scenario: [w.scenario.wind.speedMps, w.scenario.wind.gustMps] }),
  },
  fails: {
    id: () => 'fails',
    // Its flights have places and events of their own.
    rests: (_, w) => {
      const { wind, seed, outbound, air } = w.scenario;
      return { ...flown(w), scenario: [wind, seed, outbound.bearingDeg, air] };
    },
  },
  route: {
    id: () => 'route',
    rests: (_, w) => ({ ...flown(w), scenario: [w.scenario.wind, w.scenario.air], plan: w.plan }),
  },
  looked: {
    id: ({ line }) => `looked.${line}`,
    // How it balances hangs on all that it is made of, how it flew on what it was set to besides; the rest is looked at anew each day.
    rests: ({ line }, w) =>
      line === 'balance'
        ? { craft: w.airframe }
        : isFirstFlight(line)
          ? { craft: w.airframe, settings: flightSettings(w.values), board: thisBoard(w) }
          : {},
  },
  reach: {
    id: () => 'reach',
    // Of the scenario only the wind: the flights have places of their own.
    rests: (_, w) => ({ ...flown(w), scenario: w.scenario.wind }),
  },
};

const declarationOf = (seen: Seen) => declared[seen.kind] as Declared<Seen>;

const encoder = new TextEncoder();
/** A short name for what a value is, with its keys in order and numbers as exact as a board keeps them. */
export function printOf(value: unknown): string {
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

/** Told before, of the same world and proof: neither is ever changed, and stations ask again and again. */
const told = new WeakMap<ProofWorld, WeakMap<Proof, readonly Aspect[]>>();

/** What a proof rests on that is no longer what it was; empty while it holds. */
export function changedSince(proof: Proof, w: ProofWorld): readonly Aspect[] {
  const ofWorld = told.get(w) ?? new WeakMap<Proof, readonly Aspect[]>();
  told.set(w, ofWorld);
  const before = ofWorld.get(proof);
  if (before) return before;
  const now = restsNow(proof.seen, w);
  const changed = aspects.filter((a) => now[a] !== proof.rests[a]);
  ofWorld.set(proof, changed);
  return changed;
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

/** A map that is right less often proves nothing. */
const RIGHT_SHARE = 0.9;

/** Whether it is of something that is as it should be; what was seen to be wrong proves nothing. */
const isGood = ({ seen }: Proof): boolean => {
  switch (seen.kind) {
    case 'follows':
      return false;
    case 'accel':
      return seen.left < 0.1;
    case 'gyro-rest':
      return seen.verdict === 'good' || seen.verdict === 'warming';
    case 'shake':
      return seen.verdict === 'good' || seen.verdict === 'filter';
    case 'compass-current':
      return seen.verdict !== 'move-it';
    case 'baro':
      return seen.verdict !== 'noisy';
    case 'slipstream':
      return seen.verdict === 'shielded';
    case 'range':
      return seen.offM < 0.1;
    case 'flow':
      return Math.abs(seen.scale - 1) < 0.05;
    case 'tube':
      return seen.verdict === 'whole';
    case 'lost-drill':
      return seen.asDrawn;
    case 'home-arrow':
    case 'looked':
      return seen.good;
    case 'arrival':
      return seen.home === seen.total;
    case 'route':
      return seen.reached === seen.points && seen.home;
    case 'reach':
      return seen.right >= RIGHT_SHARE * seen.flown;
    default:
      return true;
  }
};

/** Several proof states as one: the worst that is there, `none` while any is missing. */
export function together(states: readonly ProofState[]): ProofState {
  if (states.includes('stale')) return 'stale';
  return states.length > 0 && states.every((s) => s === 'proven') ? 'proven' : 'none';
}
