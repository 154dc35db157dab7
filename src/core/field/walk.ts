import { actuatorNames } from '../airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { armTries } from '../arming/drill.ts';
import type { StationId } from '../findings/rule.ts';
import { homeProven, movesProven } from '../proofs/follows.ts';
import {
  type Proof,
  type ProofState,
  type ProofWorld,
  staleWords,
  stateOf,
  together,
} from '../proofs/proofs.ts';
import { proofWords } from '../proofs/proofWords.ts';
import { stickNames } from '../proofs/seen.ts';
import { opposingDirection, surfacesAgainst, tiltsOf } from '../proofs/surfaceAnswers.ts';
import { settingOf } from '../settings/typed.ts';
import { formatQuantity, type UnitSystem } from '../units/units.ts';
import type { LookedAt } from './looks.ts';

/** Where on the way to the strip something is looked at. */
export const walkPlaces = ['bench', 'strip', 'throw', 'first', 'landed'] as const;
export type WalkPlace = (typeof walkPlaces)[number];
export const placeNames: Readonly<Record<WalkPlace, string>> = {
  bench: 'At home',
  strip: 'At the strip',
  throw: 'Before it leaves the hand',
  first: 'First flights, one after the other',
  landed: 'Once it has landed',
};

/** One thing to be sure of, and how sure one may be of it now. */
export interface WalkLine {
  readonly id: string;
  readonly place: WalkPlace;
  /** What is done, in a few words. */
  readonly title: string;
  /** What has to be seen then. */
  readonly look: string;
  /** Proven and still so; proven once, and changed since; not proven; or something stands in the way. */
  readonly state: 'proven' | 'stale' | 'open' | 'blocked';
  /** What was seen, and when; null where nothing was. */
  readonly seen: string | null;
  readonly at: string | null;
  /** Why that no longer holds, or what stands in the way. */
  readonly why: string | null;
  /** Where it is proven; null for what a person looks at and says. */
  readonly station: StationId | null;
}

/** All that the walk is built from. */
export interface WalkInput {
  readonly world: ProofWorld;
  readonly proofs: readonly Proof[];
  /** Titles of the findings that block flight. */
  readonly blocking: readonly string[];
  /** Edits that wait to be written; null where no board was met. */
  readonly waiting: number | null;
  /** How fast it has to leave the hand or its launcher, over ground, m/s; left out where nothing is thrown, or nobody asks. */
  readonly launchMps?: number | undefined;
  readonly units: UnitSystem;
  readonly now: Date;
}

/** What is looked at on the strip holds for a day out and no longer. */
export const LOOK_HOLDS_H = 8;

type Line = Omit<WalkLine, 'place'>;

/** The whole walk, in the order in which it is walked. */
export function walkLines(input: WalkInput): readonly WalkLine[] {
  const at = (place: WalkPlace, lines: readonly Line[]) => lines.map((line) => ({ ...line, place }));
  return [
    ...at('bench', benchLines(input)),
    ...at('strip', stripLines(input)),
    ...at('throw', throwLines(input)),
    ...at('first', firstLines(input)),
    ...at('landed', landedLines(input)),
  ];
}

/** Lines that are walked before a flight, not in one or after it. */
export const beforeFlight = (lines: readonly WalkLine[]): readonly WalkLine[] =>
  lines.filter((l) => l.place !== 'landed' && l.place !== 'first');

/** Those of them that are not proven, in order: the first is the next to do. */
export const wanting = (lines: readonly WalkLine[]): readonly WalkLine[] =>
  beforeFlight(lines).filter((l) => l.state !== 'proven');

// ---- what a line rests on ----

const stateWords = { proven: 'proven', stale: 'stale', none: 'open' } as const satisfies Record<
  ProofState,
  WalkLine['state']
>;

/** A line that several proofs make together; the newest is told. */
function proven(
  { proofs, world }: WalkInput,
  line: Pick<Line, 'id' | 'title' | 'look' | 'station'>,
  ids: readonly string[],
  state: ProofState = together(
    ids.map((id) =>
      stateOf(
        proofs.find((p) => p.id === id),
        world,
      ),
    ),
  ),
): Line {
  const own = proofs.filter((p) => ids.includes(p.id));
  const good = own.filter((p) => stateOf(p, world) === 'proven');
  const newest = [...own].sort((a, b) => (a.at < b.at ? 1 : -1))[0];
  const stale = own.find((p) => stateOf(p, world) === 'stale');
  const count = ids.length > 1 ? `${good.length} of ${ids.length}` : null;
  return {
    ...line,
    state: stateWords[state],
    seen: newest ? (count ?? proofWords(newest.seen)) : null,
    at: newest?.at ?? null,
    why: state === 'stale' ? staleWords(stale, world) : null,
  };
}

/** A line that a person looks at and says, for a day out or for as long as the craft stays as it is. */
function looked(
  { proofs, world, now }: WalkInput,
  id: LookedAt,
  title: string,
  look: string,
  holds: 'day' | 'craft' = 'day',
): Line {
  const proof = proofs.find((p) => p.id === `looked.${id}`);
  const state = stateOf(proof, world);
  const hours = proof ? (now.getTime() - Date.parse(proof.at)) / 3_600_000 : 0;
  const old = holds === 'day' && state === 'proven' && !(hours < LOOK_HOLDS_H);
  const bad = proof?.seen.kind === 'looked' && !proof.seen.good;
  return {
    ...{ id, title, look, station: null },
    state: bad ? 'blocked' : old ? 'stale' : stateWords[state],
    seen: proof ? proofWords(proof.seen) : null,
    at: proof?.at ?? null,
    why: bad
      ? 'it was not well when it was looked at'
      : old
        ? 'it is looked at anew each day'
        : state === 'stale'
          ? staleWords(proof, world)
          : null,
  };
}

// ---- at home ----

function benchLines(input: WalkInput): readonly Line[] {
  const { world, proofs, blocking, waiting, units } = input;
  const { airframe, values } = world;
  const rotors = isRotorcraft(airframe);
  const tilts = tiltsOf(airframe);
  const measured = airframe.surfaces.map((s) => `throw.${s.id}`);
  const length = (m: number) => formatQuantity(1000 * m, 'mm', units, 0);
  return [
    {
      ...{ id: 'nothing-blocks', station: null, at: null },
      title: blocking.length === 0 ? 'Nothing stands in its way' : 'What stands in its way',
      look: 'The whole configuration is checked all the time; what blocks flight is mended first.',
      state: blocking.length === 0 ? 'proven' : 'blocked',
      seen: blocking.length === 0 ? 'no finding blocks flight' : null,
      why: blocking.length === 0 ? null : blocking.join(' '),
    },
    {
      ...{ id: 'written', title: 'The board has it', station: 'board' as StationId, at: null },
      look: 'What was thought out is on the board, and was read back from it.',
      state: waiting === 0 ? 'proven' : 'open',
      seen: waiting === 0 ? 'nothing waits to be written' : null,
      why:
        waiting === null
          ? 'no board was met'
          : waiting > 0
            ? `${waiting} ${waiting === 1 ? 'edit waits' : 'edits wait'} to be written`
            : null,
    },
    looked(
      input,
      'balance',
      'Balance',
      rotors
        ? 'Lifted at the middle of its rotors it hangs level, with the battery where it flies.'
        : `Held under the wing ${length(airframe.cgAftM)} aft of the nose it hangs level, with the battery where it flies.`,
      'craft',
    ),
    ...(rotors || measured.length === 0
      ? []
      : [
          proven(
            input,
            {
              ...{ id: 'throws', title: 'Throws', station: 'throws' as StationId },
              look: 'Each surface was measured: its middle flush, its ends as many degrees as it shall have.',
            },
            measured,
          ),
        ]),
    proven(
      input,
      {
        ...{ id: 'moves', title: 'Every output', station: 'which-moved' as StationId },
        look: 'Each output was asked and moved what it shall, the right way first.',
      },
      (world.description?.pads ?? []).map((p) => `output.${p.output}`),
      movesProven(proofs, world),
    ),
    ...(tilts.length === 0
      ? []
      : [
          proven(
            input,
            {
              ...{ id: 'opposes', title: 'It pushes back', station: 'opposes' as StationId },
              look: 'Tilted and turned each way, it was seen to push against that.',
            },
            tilts.map((t) => `opposes.${t}`),
          ),
        ]),
    proven(
      input,
      {
        ...{ id: 'sticks', title: 'Sticks', station: 'sticks' as StationId },
        look: 'Each stick moves what it shall.',
      },
      stickNames.map((s) => `stick.${s}`),
    ),
    proven(
      input,
      {
        ...{ id: 'arming', title: 'Arming', station: 'ready-to-arm' as StationId },
        look: 'It arms in peace and refuses in every other way that was tried.',
      },
      armTries.map((t) => `arming.${t}`),
    ),
    proven(
      input,
      {
        ...{ id: 'lost', title: 'Radio off', station: 'lost-link' as StationId },
        look: 'With the transmitter off it notices and acts when it shall; on again, it gives the craft back.',
      },
      ['lost-drill'],
    ),
    proven(
      input,
      {
        ...{ id: 'winds', title: 'Many winds', station: 'many-winds' as StationId },
        look: 'As it is set it came home in every wind that was flown.',
      },
      ['winds'],
      homeProven('winds', proofs, world),
    ),
    ...(settingOf(values, 'battery.scale') === undefined
      ? []
      : [
          proven(
            input,
            {
              ...{ id: 'volts', title: 'Volts', station: 'volts' as StationId },
              look: 'The board says what the meter says.',
            },
            ['volts'],
          ),
        ]),
    looked(
      input,
      'packed',
      'Packed',
      'Batteries full and whole, propellers without a nick and tight, hatch and horns firm, transmitter charged.',
    ),
  ];
}

// ---- on the strip ----

function stripLines(input: WalkInput): readonly Line[] {
  const { airframe, values } = input.world;
  const rotors = isRotorcraft(airframe);
  const [tilt] = tiltsOf(airframe);
  const surfaces = tilt && !rotors ? surfacesAgainst(airframe, tilt) : [];
  const answers =
    tilt && surfaces.length > 0
      ? `${sentence(surfaces.map((id) => `${actuatorNames[id]} ${opposingDirection(id, tilt)}`).join(', '))} Look at the craft, not at this page.`
      : 'Each propeller lies the right way up on the motor that turns its way, and nothing is near any of them. How it pushes back was seen on the bench, with them off.';
  const satellites = settingOf(values, 'arm.satellites');
  return [
    looked(
      input,
      'lead',
      'Across the battery lead',
      'Before the battery goes in: an ohmmeter across its plug climbs as the capacitors fill, and does not stand at nought. After a crash or soldering always.',
    ),
    looked(
      input,
      'radio-on',
      'Transmitter on first',
      `It is on before the craft is, with the model of ${airframe.name}, its throttle down and its switches away from you.`,
    ),
    looked(
      input,
      'battery-in',
      'Battery in, hands off',
      'It stands still until the board has found its gyro’s rest. Nothing twitches, nothing turns.',
    ),
    looked(
      input,
      'sky',
      'Wait for the sky',
      satellites === undefined || satellites === 0
        ? 'With a view to all sides, until the position stands still.'
        : `With a view to all sides, until it uses ${satellites} satellites and more. Home is where it is armed then.`,
    ),
    looked(input, 'tilt', tiltTitle(airframe, tilt), answers),
    looked(
      input,
      'sticks-move',
      'Each stick once',
      rotors
        ? 'Disarmed, seen where the board shows its channels: each follows its stick, and throttle down is down.'
        : 'Each moves what it shall, all of its way, and what it shall not move stands still.',
    ),
    looked(
      input,
      'range',
      'Walk away with it',
      rotors
        ? 'Disarmed, with the transmitter at its weakest: at forty paces the board still hears it as well as beside you.'
        : 'Disarmed, with the transmitter at its weakest: at forty paces its surfaces still follow each stick at once.',
    ),
    looked(
      input,
      'arrow',
      'The way home',
      'Armed at its place and disarmed again, then carried some way off: the arrow and distance that the board tells point back to there.',
    ),
  ];
}

const sentence = (words: string): string => `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;

function tiltTitle(airframe: Airframe, tilt: string | undefined): string {
  if (tilt === 'roll-right' && !isRotorcraft(airframe)) return 'Tilt it to the right';
  return isRotorcraft(airframe) ? 'Propellers' : 'Tilt it';
}

// ---- before it leaves the hand ----

function throwLines(input: WalkInput): readonly Line[] {
  const { units, world, launchMps } = input;
  const { airframe, values } = world;
  const speed = (mps: number) => formatQuantity(mps, 'm/s', units, 0);
  const home = settingOf(values, isRotorcraft(airframe) ? 'hover.speed' : 'return.speed');
  return [
    looked(
      input,
      'wind',
      'Wind',
      home === undefined
        ? 'It is less than what it was flown in by the bench.'
        : `The way home is flown at ${speed(home)}: half of that as wind is enough for a first time, and nobody stands downwind.`,
    ),
    looked(
      input,
      'clear',
      'Nobody in the way',
      'People behind you, the strip and the air ahead clear, the way home clear of roads and houses.',
    ),
    looked(
      input,
      'armed',
      isRotorcraft(airframe) ? 'Arm, and lift off' : 'Arm, and throw',
      launchMps !== undefined
        ? `Against the wind, wings level, nose a little up, at ${speed(launchMps)} over ground. In a mode that levels itself; hand free of the propeller.`
        : isRotorcraft(airframe)
          ? 'From level ground, some paces away from you, in a mode that levels itself; up past its own wash at once.'
          : 'Against the wind, straight along the strip, in a mode that levels itself; up once it carries.',
    ),
  ];
}

// ---- the first flights ----

function firstLines(input: WalkInput): readonly Line[] {
  const rotors = isRotorcraft(input.world.airframe);
  const flown = (id: LookedAt, title: string, look: string) => looked(input, id, title, look, 'craft');
  return [
    flown(
      'flown-level',
      rotors ? 'Hover by hand' : 'Level by hand',
      rotors
        ? 'In a mode that levels itself, near by and low: it stays where it is let be, and answers each stick the right way, softly.'
        : 'In a mode that levels itself, high enough to mend things: hands off it flies on straight. Trim the rest, and land.',
    ),
    flown(
      'flown-arrow',
      'The arrow first',
      'A hundred metres out and to both sides: the arrow over the picture, or the distance at the radio, points back to where it was armed, all the time.',
    ),
    flown(
      'flown-return',
      'The return, in easy sight',
      'Asked for by its switch, high and near, a hand at the switch that ends it: it climbs as it shall, turns home the right way and stays above home.',
    ),
    flown(
      'flown-again',
      'Three times more',
      'From other sides, and once against the wind: it does the same each time, and comes home with speed to spare.',
    ),
    flown(
      'flown-radio-off',
      'The radio off, in easy sight',
      'Only now: with the transmitter switched off it notices, waits and returns by itself, and gives itself back when it is on again. From here on the return is the last resort that it is meant to be.',
    ),
  ];
}

// ---- afterwards ----

function landedLines(input: WalkInput): readonly Line[] {
  return [
    looked(
      input,
      'off',
      'Off, in this order',
      'Disarm; battery out of the craft; then, last, the transmitter. Never the other way round.',
    ),
    looked(
      input,
      'warm',
      'Feel it',
      'Motors, controllers and battery no more than warm; nothing loose, nothing cracked, no servo that hums.',
    ),
    looked(
      input,
      'learnt',
      'What it told',
      'Read its log while you remember the flight, and write down what surprised you.',
    ),
  ];
}
