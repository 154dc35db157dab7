import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { stallSpeed } from '../airframe/performance.ts';
import { rememberedOf } from '../airframe/remembered.ts';
import type { BoardDescription } from '../board/description.ts';
import { gainLawOf } from '../control/gainLaw.ts';
import { type Axis, axes } from '../mixer/authority.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { type LoopState, stateOf } from './answers.ts';
import { type Loop, loopOf } from './chain.ts';
import { extremesOf, type Flight } from './gainSchedule.ts';
import { marginOf } from './margin.ts';

/** Level at a speed, in a dive with the throttle shut, in a hover, or with nearly all throttle. */
type FlownIn = 'level' | 'dive' | 'hover' | 'full';

/** An axis with too little left somewhere among the speeds it is flown at, where it has least. */
export interface Ringing {
  readonly axis: Axis;
  /** Control set, 1 to 3. */
  readonly set: number;
  readonly speedMps: number;
  readonly in: FlownIn;
  readonly state: LoopState;
  /** What is left where it crosses over, degrees, and how many times its gains can be: whichever of the two is short. */
  readonly degrees: number;
  readonly gainLeft: number;
  /** Where it rings or would, Hz. */
  readonly hz: number;
  /** So many times P, I and D leave what is to be left; null where taking them down does not. */
  readonly times: number | null;
}

/** Wings are looked at from just above the stall to faster than they are set to fly. */
const SLOWEST_STALLS = 1.2;
const FASTEST_MORE = 1.3;

/** What the answers rest on among the settings: gains, their law, filters, mix, ends, pulses and speeds. */
const RESTS_ON =
  /^(set\.|rate\.|gyro\.|out\.|mix\.|row\.|timer\.|rotor\.|craft\.kind|motor\.(idle|max|cruise)|hover\.throttle$|battery\.cells$|level\.down$|nav\.speed$|return\.speed$)/;

const known = rememberedOf<readonly Ringing[]>();

/** Control sets that may be flown: the one that is set, or all where a channel chooses. */
function setsFlown(values: Values): readonly number[] {
  if ((settingOf(values, 'set.channel') ?? 0) > 0) return [1, 2, 3];
  return [Number(settingOf(values, 'set.active') ?? 1)];
}

/**
 * Axes that ring or are near it. What was found for these settings is kept, so that other edits cost nothing.
 * @param pads which timer each output is on
 */
export function ringingOf(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
): readonly Ringing[] {
  const rests = Object.entries(values).filter(([k]) => RESTS_ON.test(k));
  return known(airframe, JSON.stringify([rests, pads]), () => findRinging(airframe, values, pads));
}

function findRinging(airframe: Airframe, values: Values, pads: BoardDescription['pads']): readonly Ringing[] {
  const flights = flightsOf(airframe, values);
  return setsFlown(values).flatMap((set) =>
    axes.flatMap((axis) => {
      const loops = flights.flatMap((f) => {
        const loop = loopOf(airframe, values, pads, axis, f.speedMps, set, f.flown);
        return loop ? [{ ...loop, in: f.in }] : [];
      });
      const worst = leastOf(loops);
      return worst && worst.state !== 'well' ? [{ axis, set, ...worst, times: timesThatLeave(loops) }] : [];
    }),
  );
}

/** The flights that a loop is asked in. */
function flightsOf(airframe: Airframe, values: Values): readonly (Flight & { readonly in: FlownIn })[] {
  const { fast } = extremesOf(airframe, values);
  if (isRotorcraft(airframe))
    return [
      { speedMps: 0, flown: {}, in: 'hover' },
      { ...fast, in: 'full' },
    ];
  const s = settingsOf(values);
  const level = [
    SLOWEST_STALLS * stallSpeed(airframe),
    s.number('nav.speed'),
    FASTEST_MORE * Math.max(s.number('nav.speed'), s.number('return.speed')),
  ].map((speedMps) => ({ speedMps, flown: {}, in: 'level' as const }));
  // Where gains go by the throttle, a dive with it shut is flown with those of slow flight.
  const dives = gainLawOf(values, false).by === 'throttle';
  return dives ? [...level, { ...fast, in: 'dive' }] : level;
}

type Asked = Loop & { readonly in: FlownIn };
type Least = Pick<Ringing, 'speedMps' | 'in' | 'state' | 'degrees' | 'gainLeft' | 'hz'>;
const worse: Readonly<Record<LoopState, number>> = { rings: 2, 'little-margin': 1, well: 0 };

/** A moment of all throttle or of a dive has to be flown through; there is no need to stay in it. */
const isPassing = (flown: FlownIn): boolean => flown === 'dive' || flown === 'full';

/** The worst of some loops, and of those the one with least left; what rings where it is flown for long goes before what does in passing. */
function leastOf(loops: readonly Asked[]): Least | null {
  let least: Least | null = null;
  for (const loop of loops) {
    const m = marginOf(loop);
    const state = stateOf(m);
    const passing = isPassing(loop.in);
    const here = {
      speedMps: loop.model.speedMps,
      in: loop.in,
      state: passing && state === 'little-margin' ? ('well' as const) : state,
      degrees: m.crossover?.degrees ?? 180,
      gainLeft: m.gainLeft,
      hz: Number.isNaN(m.ringsHz) ? (m.crossover?.hz ?? 0) : m.ringsHz,
    };
    const by = least ? worse[here.state] - worse[least.state] : 1;
    const sooner = least && isPassing(least.in) === passing ? here.degrees < least.degrees : !passing;
    if (!least || by > 0 || (by === 0 && sooner)) least = here;
  }
  return least;
}

/** By halving: how many times the gains may be that leave what is to be left at all speeds. */
function timesThatLeave(loops: readonly Asked[]): number | null {
  const leaves = (k: number) =>
    leastOf(
      loops.map((loop) => ({
        ...loop,
        gains: {
          ...loop.gains,
          proportional: k * loop.gains.proportional,
          integral: k * loop.gains.integral,
          derivative: k * loop.gains.derivative,
        },
      })),
    )?.state === 'well';
  if (!leaves(0.02)) return null;
  let [low, high] = [0.02, 1];
  for (let i = 0; i < 8; i++) {
    const mid = Math.sqrt(low * high);
    if (leaves(mid)) low = mid;
    else high = mid;
  }
  return low;
}
