import { throwAbout } from '../src/bench/stepFlown.ts';
import { flyTune, modelOfFlown } from '../src/bench/tuneFlown.ts';
import { kinds } from '../src/core/airframe/actuators.ts';
import type { Airframe } from '../src/core/airframe/airframe.ts';
import { plainCraft } from '../src/core/airframe/library.ts';
import { acrossOf, scaledTo } from '../src/core/airframe/scaled.ts';
import { stepFromLog } from '../src/core/analysis/stepResponse.ts';
import { askedOf, usualSpeed } from '../src/core/answers/answers.ts';
import { loopOf } from '../src/core/answers/chain.ts';
import { LEAST_ASKED } from '../src/core/answers/loggedAnswer.ts';
import { solveGains } from '../src/core/answers/solveGains.ts';
import { figuresOf } from '../src/core/answers/stepAnswer.ts';
import { fellF7Model } from '../src/core/board/boards.ts';
import { fellF7 } from '../src/core/board/fellF7.ts';
import { truthFromSettings } from '../src/core/formats/benchTruth.ts';
import { Random } from '../src/core/math/random.ts';
import type { Values } from '../src/core/settings/catalogue.ts';
import { preparedSettings } from '../src/core/settings/preparedSettings.ts';
import { pfadCatalogue } from '../src/firmware/catalogue.ts';
import { torvholm } from '../src/testing/demoCraft.ts';
import { overHome } from '../src/testing/overHome.ts';

/**
 * Gains that are proposed, and gains that are found in flight, over craft drawn by chance: every kind, 0.3 to 6 kg. Proposed ones are flown
 * with the stick thrown about and in gusts; found ones are held against the model's.
 */

const AXES = ['roll', 'pitch'] as const;
/** Wanted of what is proposed, and what flown ones may come to. */
const OVERSHOOT = 0.1;
const MOST_OVER = 0.2;
const GUST_MPS = 5;
/** More of the time at its end than this it rings. */
const MOST_AT_END = 0.1;
const NEAR = 0.2;

interface TuningTruth {
  /** Share of the axes that something was proposed for; of that, what went less than a fifth over, and what came through gusts. */
  readonly proposed: number;
  readonly calm: number;
  readonly steady: number;
  /** Share of the axes that something was found for in flight; of that, what is within a fifth of the model's. */
  readonly found: number;
  readonly near: number;
  readonly lines: readonly string[];
}

/** A craft of a kind and of some mass: lengths go with its cube root, propellers as lengths, their speed at the tip stays. */
function drawn(random: Random, k: number): Airframe {
  const like = plainCraft(kinds[k % kinds.length]!);
  const massKg = 0.3 * (6 / 0.3) ** random.uniform();
  const size = (massKg / like.massKg) ** (1 / 3) * (0.92 + 0.16 * random.uniform());
  const m = like.motors[0]!;
  const cells = Math.max(2, Math.min(6, Math.round(like.battery.cells * Math.sqrt(massKg / like.massKg))));
  return scaledTo(like, {
    name: `${like.kind} of ${massKg.toFixed(2)} kg`,
    acrossM: size * acrossOf(like),
    massKg,
    propDiameterM: size * m.propDiameterM,
    kvRpmPerV: Math.round((m.kvRpmPerV * like.battery.cells) / cells / Math.sqrt(size)),
    cells,
    capacityMah: Math.round((like.battery.capacityMah * massKg * like.battery.cells) / like.massKg / cells),
  });
}

const scenario = overHome(3, 0, 0.5);

/** @param count of craft @param seed of the draw */
export function tuningTruth(count: number, seed = 7): TuningTruth {
  const random = new Random(seed);
  const sums = { proposed: 0, calm: 0, steady: 0, found: 0, near: 0, axes: 0 };
  const lines: string[] = [];
  for (let k = 0; k < count; k++) {
    let airframe: Airframe;
    try {
      airframe = drawn(random, k);
    } catch (error) {
      lines.push(`no craft: ${String(error)}`);
      continue;
    }
    const plain = { ...pfadCatalogue.defaults(), ...preparedSettings(airframe, fellF7, torvholm) };
    for (const axis of AXES) {
      sums.axes++;
      const line = proposedFor(airframe, plain, axis, sums);
      lines.push(`${airframe.name} ${axis}: ${line}`);
    }
    lines.push(foundFor(airframe, plain, sums));
  }
  return {
    proposed: sums.proposed / sums.axes,
    calm: sums.calm / sums.proposed,
    steady: sums.steady / sums.proposed,
    found: sums.found / sums.axes,
    near: sums.near / sums.found,
    lines,
  };
}

interface Sums {
  proposed: number;
  calm: number;
  steady: number;
  found: number;
  near: number;
}

function proposedFor(airframe: Airframe, plain: Values, axis: (typeof AXES)[number], sums: Sums): string {
  const speed = usualSpeed(airframe, plain);
  const loop = loopOf(airframe, plain, fellF7.pads, axis, speed);
  const gains = loop && solveGains(loop, askedOf(plain, axis), OVERSHOOT);
  if (!gains) return 'nothing proposed';
  sums.proposed++;
  const values: Values = {
    ...plain,
    [`rate.${axis}.p`]: gains.proportional,
    [`rate.${axis}.i`]: gains.integral,
    [`rate.${axis}.d`]: gains.derivative,
    [`rate.${axis}.forward`]: Math.min(2, gains.feedForward),
  };
  const input = {
    airframe,
    board: fellF7Model,
    values,
    truth: truthFromSettings(airframe, values),
    site: torvholm,
  };
  const flown = throwAbout({ ...input, scenario }, axis);
  if ('refused' in flown) return flown.refused;
  const told = stepFromLog([flown], 1000, LEAST_ASKED);
  let over = Number.NaN;
  if (told.ok) {
    const { mean, stepS } = told.step;
    const line = mean.subarray(0, Math.round(0.6 / stepS));
    const f = figuresOf({ rates: line, commands: line, stepS }, 1);
    over = f.overshoot;
    if (over < MOST_OVER) sums.calm++;
  }
  const gusts = throwAbout({ ...input, scenario }, axis, GUST_MPS);
  let atEnd = 1;
  if (!('refused' in gusts)) {
    atEnd = gusts.atEnd;
    if (atEnd < MOST_AT_END) sums.steady++;
  }
  return `P ${gains.proportional.toPrecision(3)}, ${(100 * over).toFixed(0)} % over, ${(100 * atEnd).toFixed(1)} % at its end in gusts`;
}

function foundFor(airframe: Airframe, plain: Values, sums: Sums): string {
  const input = {
    airframe,
    board: fellF7Model,
    values: plain,
    truth: truthFromSettings(airframe, plain),
    site: torvholm,
    scenario,
  };
  const flown = flyTune(input);
  if ('refused' in flown) return `${airframe.name}: ${flown.refused}`;
  const words = AXES.map((axis) => {
    const g = flown.found[axis];
    if (!g) return `${axis} none`;
    sums.found++;
    const times = g.gains.proportional / (modelOfFlown(input, flown, axis)?.p ?? Number.NaN);
    if (Math.abs(times - 1) < NEAR) sums.near++;
    return `${axis} ${times.toFixed(2)} of the model's`;
  });
  return `${airframe.name} found: ${words.join(', ')}`;
}
