import type { Airframe } from '../airframe/airframe.ts';
import { isRotorcraft } from '../airframe/airframe.ts';
import { stallSpeed } from '../airframe/performance.ts';
import { DEG } from '../math/scalar.ts';
import { brokenFence, brokenWords, depthInside, type LocalFence, localFences } from '../plan/fences.ts';
import type { FlightPlan } from '../plan/plan.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '../units/units.ts';
import type { Flown } from './flown.ts';
import { inTheAir } from './inTheAir.ts';
import { fromHome } from './series.ts';

/** What of a flight was not as one would wish it, found by rules: each a stretch of time, its worst moment, and words. */

type SurpriseKind =
  | 'place'
  | 'jump'
  | 'link'
  | 'shake'
  | 'compass'
  | 'stall'
  | 'saturated'
  | 'sag'
  | 'low'
  | 'fence'
  | 'wind';

export interface Surprise {
  readonly kind: SurpriseKind;
  readonly title: string;
  /** What it was at its worst, against what is wanted. */
  readonly words: string;
  /** What to look at next. */
  readonly advice: string;
  readonly fromS: number;
  readonly toS: number;
  /** Its worst moment, as an index. */
  readonly at: number;
  /** How far beyond what is wanted, share; for the order. */
  readonly worst: number;
  /** When the same was seen again, s. */
  readonly again: readonly number[];
}

/** What a flight is judged against. */
export interface JudgedBy {
  readonly airframe: Airframe;
  readonly plan?: FlightPlan | undefined;
  /** Ground under each moment; NaN where nobody knows it. */
  readonly groundM: Float64Array;
  readonly units: UnitSystem;
}

interface Rule {
  readonly kind: SurpriseKind;
  readonly title: string;
  /** For so long at least, s. */
  readonly leastS: number;
  readonly advice: string;
  /** Beyond what is wanted at a moment: above nought is a surprise. NaN says nothing. Null where it was not told. */
  readonly bad: ((i: number) => number) | null;
  readonly words: (i: number) => string;
}

/** Fewer satellites, or a place known worse than this, m, is a poor one for a way home. */
const LEAST_SATELLITES = 7;
const WORST_ACCURACY_M = 4;
/** A place that is so much farther from where the speed led than both are good to, m. */
const JUMP_M = 12;
const LEAST_QUALITY = 0.6;
/** Accelerometers of the usual range of 16 g clip in shakes some way beyond; attitude suffers before, m/s^2 rms. Ours. */
const MOST_SHAKE = 20;
const MOST_COMPASS_OFF = 20 * DEG;
/** Above the stall by less than this while it turns, share. */
const STALL_MARGIN = 1.12;
const FULL_COMMAND = 0.97;
/** A cell under load below this is being hurt, V. */
const LEAST_CELL_V = { lipo: 3.4, 'li-ion': 2.9 } as const;
/** Lower over the ground than this, farther from home than that, m. */
const LOW_M = 20;
const LOW_BEYOND_M = 200;
const NEAR_FENCE_M = 30;
/** Wind that takes more than this of the airspeed. */
const MOST_WIND = 0.65;
/** Spells so near to each other are one, s. */
const JOIN_S = 5;

/** All that surprised: of each kind the worst, those first that were farthest beyond what is wanted. */
export function surprisesOf(flown: Flown, by: JudgedBy): readonly Surprise[] {
  const air = inTheAir(flown);
  if (!air) return [];
  return rulesFor(flown, by)
    .flatMap((rule) => {
      const all = rule.bad ? spells(flown.seconds, rule, air.from, air.to) : [];
      if (all.length === 0) return [];
      const worst = all.reduce((a, b) => (b.worst > a.worst ? b : a));
      return [{ ...worst, again: all.filter((s) => s !== worst).map((s) => s.fromS) }];
    })
    .sort((a, b) => b.worst - a.worst);
}

/** Stretches in which a rule speaks for long enough. */
function spells(seconds: Float64Array, rule: Rule, from: number, to: number): Omit<Surprise, 'again'>[] {
  const found: { fromI: number; toI: number; at: number; worst: number }[] = [];
  let open: (typeof found)[number] | null = null;
  for (let i = from; i <= to; i++) {
    const worst = rule.bad!(i);
    if (!(worst > 0)) continue;
    if (open && seconds[i]! - seconds[open.toI]! <= JOIN_S) {
      open.toI = i;
      if (worst > open.worst) Object.assign(open, { worst, at: i });
      continue;
    }
    open = { fromI: i, toI: i, at: i, worst };
    found.push(open);
  }
  return found
    .filter((f) => seconds[f.toI]! - seconds[f.fromI]! >= rule.leastS)
    .map(({ fromI, toI, at, worst }) => ({
      ...{ kind: rule.kind, title: rule.title, advice: rule.advice, words: rule.words(at), at, worst },
      fromS: seconds[fromI]!,
      toS: seconds[toI]!,
    }));
}

function rulesFor(flown: Flown, { airframe, plan, groundM, units }: JudgedBy): readonly Rule[] {
  const { told: t, seconds } = flown;
  const metres = (m: number) => formatQuantity(m, 'm', units, 0);
  const speed = (v: number) => formatQuantity(v, 'm/s', units, 1);
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const away = fromHome(flown);
  const wing = !isRotorcraft(airframe);
  const stall = wing ? stallSpeed(airframe) : 0;
  const stallAt = (i: number) => stall / Math.sqrt(Math.max(0.2, Math.cos(t.roll?.[i] ?? 0)));
  const cells = airframe.battery.cells;
  const leastV = LEAST_CELL_V[airframe.battery.chemistry] * cells;
  const fences = plan ? localFences(plan.fences, flown.origin) : [];
  const homeHeight = t.height?.find(Number.isFinite) ?? 0;
  const windOf = (i: number) => Math.hypot(t.windNorth?.[i] ?? 0, t.windEast?.[i] ?? 0);
  const jump = (i: number) => {
    const dt = seconds[i]! - seconds[i - 1]!;
    if (!(dt > 0 && dt < 2)) return 0;
    const dn = t.north![i]! - t.north![i - 1]! - t.velocityNorth![i]! * dt;
    const de = t.east![i]! - t.east![i - 1]! - t.velocityEast![i]! * dt;
    return Math.hypot(dn, de);
  };
  return [
    {
      ...{ kind: 'place', title: 'The place was poorly known', leastS: 1 },
      advice: 'Look at the sky view of Sense, and at what radiates near the receiver.',
      bad:
        t.satellites || t.accuracy
          ? (i) =>
              Math.max(
                (LEAST_SATELLITES - (t.satellites?.[i] ?? LEAST_SATELLITES)) / LEAST_SATELLITES,
                (t.accuracy?.[i] ?? 0) / WORST_ACCURACY_M - 1,
              )
          : null,
      words: (i) =>
        `${t.satellites ? `${t.satellites[i]} satellites` : ''}${t.satellites && t.accuracy ? ', ' : ''}${t.accuracy ? `good to ${metres(t.accuracy[i]!)}` : ''}; ${LEAST_SATELLITES} and ${metres(WORST_ACCURACY_M)} are wanted`,
    },
    {
      ...{ kind: 'jump', title: 'The place jumped', leastS: 0 },
      advice:
        'A reflection or a loose antenna; fly with a clearer view of the sky before the way home is trusted.',
      bad:
        t.north && t.east && t.velocityNorth && t.velocityEast
          ? (i) => (i > 0 ? jump(i) / (JUMP_M + (t.accuracy?.[i] ?? 0)) - 1 : 0)
          : null,
      words: (i) => `by ${metres(jump(i))} from one moment to the next`,
    },
    {
      ...{ kind: 'link', title: 'The link was poor', leastS: 0.5 },
      advice: 'Look at both antennas, and how they lay to the craft then.',
      bad: t.quality ? (i) => 1 - t.quality![i]! / LEAST_QUALITY : null,
      words: (i) => `${percent(t.quality![i]!)} was heard${away ? `, ${metres(away[i]!)} from home` : ''}`,
    },
    {
      ...{ kind: 'shake', title: 'It shook', leastS: 2 },
      advice: 'Balance the propeller, look at the board’s mount, and at What shakes it in Refine.',
      bad: t.shake ? (i) => t.shake![i]! / MOST_SHAKE - 1 : null,
      words: (i) =>
        `${formatQuantity(t.shake![i]!, 'm/s2', units, 0)} rms; below ${MOST_SHAKE} the attitude is not touched`,
    },
    {
      ...{ kind: 'compass', title: 'The compass disagreed', leastS: 3 },
      advice: 'Teach the compass again with the battery in, or move it away from the current.',
      bad: t.compassOff ? (i) => Math.abs(t.compassOff![i]!) / MOST_COMPASS_OFF - 1 : null,
      words: (i) =>
        `${Math.round(Math.abs(t.compassOff![i]!) / DEG)}° off the heading it flew by${t.currentA ? `, at ${formatNumber(t.currentA[i]!, 0)} A` : ''}`,
    },
    {
      ...{ kind: 'stall', title: 'It came near the stall', leastS: 0.4 },
      advice: 'Raise the least airspeed, or bank less in turns.',
      // A glide to the ground ends slow: the last metres are a landing.
      bad:
        wing && t.airspeed
          ? (i) =>
              Number.isFinite(t.height?.[i]) && t.height![i]! - homeHeight < 8
                ? 0
                : (STALL_MARGIN * stallAt(i)) / Math.max(0.1, t.airspeed![i]!) - 1
          : null,
      words: (i) =>
        `${speed(t.airspeed![i]!)} at ${Math.round(Math.abs(t.roll?.[i] ?? 0) / DEG)}° of bank, where it stalls at ${speed(stallAt(i))}`,
    },
    {
      ...{ kind: 'saturated', title: 'A command was at its end', leastS: 0.5 },
      advice: 'Surfaces had no more to give: larger throws, more speed, or the centre of gravity.',
      bad: t.command
        ? (i) => t.command![i]! / FULL_COMMAND - 1 + (t.command![i]! >= FULL_COMMAND ? 1e-6 : 0)
        : null,
      words: (i) => `${percent(t.command![i]!)} of what roll, pitch or yaw can ask for`,
    },
    {
      ...{ kind: 'sag', title: 'The battery sagged', leastS: 1 },
      advice:
        'Less throttle when it is low, or a pack of less resistance; see what its book says of its age.',
      bad: t.supplyV ? (i) => (t.supplyV![i]! > 1 ? leastV / t.supplyV![i]! - 1 : 0) : null,
      words: (i) =>
        `${formatQuantity(t.supplyV![i]! / cells, 'v', units, 2)} a cell${t.currentA ? ` under ${formatNumber(t.currentA[i]!, 0)} A` : ''}; ${formatQuantity(leastV / cells, 'v', units, 1)} is the least`,
    },
    {
      ...{ kind: 'low', title: 'It was low over the ground', leastS: 0.5 },
      advice: 'Raise the height of the return or of the route; see the reach of Return.',
      bad:
        t.height && away
          ? (i) => (away[i]! > LOW_BEYOND_M ? 1 - (t.height![i]! - groundM[i]!) / LOW_M : 0)
          : null,
      words: (i) => `${metres(t.height![i]! - groundM[i]!)} over it, ${metres(away![i]!)} from home`,
    },
    {
      ...{ kind: 'fence', title: 'It came close to a fence', leastS: 0 },
      advice: 'Draw the route with more room to it.',
      bad:
        fences.length > 0 && t.north && t.east
          ? (i) =>
              1 -
              roomToFences(fences, t.north![i]!, t.east![i]!, (t.height?.[i] ?? 0) - homeHeight) /
                NEAR_FENCE_M
          : null,
      words: (i) => {
        const [n, e, h] = [t.north![i]!, t.east![i]!, (t.height?.[i] ?? 0) - homeHeight];
        const broken = brokenFence(fences, n, e, h, 0);
        return broken >= 0
          ? `it was ${brokenWords(fences[broken]!)}`
          : `${metres(roomToFences(fences, n, e, h))} of room were left`;
      },
    },
    {
      ...{ kind: 'wind', title: 'The wind took most of its speed', leastS: 5 },
      advice: 'Fly lower, or faster; see what Enough says of that wind.',
      bad:
        t.windNorth && t.windEast && t.airspeed
          ? (i) => (t.airspeed![i]! > 3 ? windOf(i) / (MOST_WIND * t.airspeed![i]!) - 1 : 0)
          : null,
      words: (i) => `${speed(windOf(i))} of wind against ${speed(t.airspeed![i]!)} through the air`,
    },
  ];
}

/** Room to the nearest border that matters here, m; below nought where one is broken. */
function roomToFences(fences: readonly LocalFence[], north: number, east: number, heightM: number): number {
  let [out, within, anyIn] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, false];
  for (const f of fences) {
    const depth = depthInside(f, north, east);
    if (f.keep === 'in') {
      anyIn = true;
      within = Math.max(within, depth);
    } else if (heightM > f.fromM - NEAR_FENCE_M && heightM < f.toM + NEAR_FENCE_M)
      out = Math.min(out, -depth);
  }
  return anyIn ? Math.min(out, within) : out;
}
