import { actuatorNames, isMotor } from '../airframe/actuators.ts';
import type { Airframe } from '../airframe/airframe.ts';
import type { BoardDescription } from '../board/description.ts';
import { gainsOf } from '../control/controlSet.ts';
import type { GainTimes } from '../control/gainLaw.ts';
import { filtersOf, GyroFilter, lowPassesOf, spreadLines } from '../control/gyroFilter.ts';
import { LowPass } from '../control/lowPass.ts';
import { Notch } from '../control/notch.ts';
import { type LoopShape, loopShapeOf, type RateGains } from '../control/rateLoop.ts';
import { type Complex, complex, ONE, over, plus, polar, scaled, times } from '../math/complex.ts';
import { type Axis, type MixRow, mixRows } from '../mixer/authority.ts';
import { stepsBetweenPulses } from '../mixer/pulseTiming.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { type AxisModel, axisModel, craftAt, type FlownOtherwise, gainTimesOf } from './axisModel.ts';

/** A step of the firmware, s. */
export const LOOP_S = 0.001;

/** One filter between gyro and loop, in the order in which they are passed. */
interface ChainFilter {
  readonly id: 'notch' | 'low-pass';
  readonly name: string;
  /** What it makes of a steady swing. */
  readonly at: (hz: number) => Complex;
  /** One of its own, at rest: the same code as flies. */
  readonly make: () => { step(value: number): number };
}

/**
 * Every filter between gyro and rate loop as a board is set; one that is off is left out. What follows the throttle is as at cruise, and what
 * tracks is spread over its span.
 * @param axis yaw may have one of its own
 */
export function gyroFilters(values: Values, axis: Axis = 'roll'): readonly ChainFilter[] {
  const set = filtersOf(values);
  const yaw = axis === 'yaw';
  const lines = spreadLines(set);
  const { notches, tracked, lowPasses } = new GyroFilter(set, set.notchHz, LOOP_S, yaw, lines);
  return [
    ...notches.map((notch, k): ChainFilter => {
      const hz = (k + 1) * set.notchHz;
      return {
        id: 'notch',
        name: `notch at ${Math.round(hz)} Hz`,
        at: (x) => notch.at(x),
        make: () => new Notch(hz, set.notchQ, LOOP_S),
      };
    }),
    ...tracked.map(
      (notch, k): ChainFilter => ({
        id: 'notch',
        name: `tracking notch, say at ${Math.round(lines[k]!)} Hz`,
        at: (x) => notch.at(x),
        make: () => new Notch(lines[k]!, set.trackQ, LOOP_S),
      }),
    ),
    ...lowPasses.map(
      (low, k): ChainFilter => ({
        id: 'low-pass',
        name: low.name,
        at: (hz) => low.at(hz),
        make: () => lowPassesOf(set, LOOP_S, yaw)[k]!,
      }),
    ),
  ];
}

/** What all of them together make of a steady swing. */
export const throughAll = (filters: readonly ChainFilter[], hz: number): Complex =>
  filters.reduce((sum, f) => times(sum, f.at(hz)), ONE);

/** s between two pulses to what moves this axis, the slowest of them. */
function pulseWait(
  rows: readonly MixRow[],
  values: Values,
  axis: Axis,
  pads: BoardDescription['pads'],
): number {
  const waits = rows
    .filter((r) => r.mix[axis] !== 0)
    .map(({ output }) => stepsBetweenPulses(values, pads.find((p) => p.output === output)?.timer));
  return LOOP_S * Math.max(1, ...waits);
}

/** From the gyro's sample to the pulse that it decides, s: a pulse sends what was decided last, half a turn of the loops ago on average. */
const loopLate = (pulseS: number, { everySteps }: LoopShape): number =>
  LOOP_S * (pulseS > everySteps * LOOP_S ? 1 + (everySteps - 1) / 2 : 1);

/** A value that is held for so long: on average half of that late. (1 - exp(-s T))/(s T). */
export function holdAt(seconds: number, hz: number): Complex {
  const turn = 2 * Math.PI * hz * seconds;
  if (turn === 0) return ONE;
  const back = polar(1, -turn);
  return over(complex(1 - back.re, -back.im), complex(0, turn));
}

/** P, I and D on the error, with the low-pass of D. @param gainBy what the gain law multiplies them by */
export function controllerAt(gains: RateGains, shape: LoopShape, gainBy: number, hz: number): Complex {
  const s = complex(0, 2 * Math.PI * hz);
  const sum = plus(complex(gains.proportional), over(complex(gains.integral), s));
  if (gains.derivative === 0) return scaled(sum, gainBy);
  const dt = shape.everySteps * LOOP_S;
  const low = new LowPass(shape.dCutoffHz, dt).at(hz);
  const back = polar(1, -2 * Math.PI * hz * dt);
  // From one turn of the loops to the next.
  const difference = scaled(complex(1 - back.re, -back.im), gains.derivative / dt);
  const slope = times(difference, shape.dPoles > 1 ? times(low, low) : low);
  return scaled(plus(sum, slope), gainBy);
}

/** All that a command goes through on its way round, and what each part of it makes of a steady swing. */
export interface Loop {
  readonly model: AxisModel;
  readonly gains: RateGains;
  readonly shape: LoopShape;
  /** What the gain law makes of them here. */
  readonly times: Readonly<GainTimes>;
  readonly filters: readonly ChainFilter[];
  /** From the gyro's sample to the pulse that it decides, s. */
  readonly loopS: number;
  readonly waitS: number;
  /** Of the servo: share of full command per second; infinite for motors, whose lag is the craft's model's. */
  readonly slew: number;
  /** What is loose between servos and surfaces, share of full command: what is fed back of a small move may be less, and is lost. */
  readonly play: number;
  /** Later than all that is known of says, s: 0 for a promise. */
  readonly lateS: number;
}

/** Share of full travel that a servo that nobody described turns in a second: 500 of 45 degrees. */
const USUAL_SLEW = 500 / 45;
const USUAL_SLOP_DEG = 0.3;

/** Share of full command per second that the slowest of the servos for an axis gives. */
function slewOf(airframe: Airframe, values: Values, axis: Axis, rows: readonly MixRow[]): number {
  const s = settingsOf(values);
  const each = rows
    .filter((r) => !isMotor(r.drives) && r.mix[axis] !== 0)
    .map(({ output, drives, mix }) => {
      const linkage = airframe.surfaces.find((x) => x.id === drives)?.linkage;
      const servo = linkage ? linkage.servoSpeedDegPerS / linkage.servoTravelDeg : USUAL_SLEW;
      const speed = s.number(`out.${output}.speed` as 'out.1.speed');
      const limit = speed > 0 ? speed / 500 : Number.POSITIVE_INFINITY;
      // A command that moves it by part of its travel is followed as much faster.
      return Math.min(servo, limit) / travelOf(values, output, mix[axis]);
    });
  return Math.min(...each);
}

/** Share of a servo's travel that a full command moves it by. */
function travelOf(values: Values, output: number, mix: number): number {
  const s = settingsOf(values);
  const end = (part: 'low' | 'high') => s.number(`out.${output}.${part}` as 'out.1.low');
  return Math.max(0.001, (Math.abs(mix) * (end('high') - end('low'))) / 1000);
}

/** What is loose at the surfaces of an axis, as angles. @param axis that a full command is of */
export interface Play {
  /** The surface that has most of it. */
  readonly surface: string;
  readonly deg: number;
  /** The same as a share of full command. */
  readonly share: number;
}

/** What is loose at the surface where it counts most, as the craft is described; null where no surface moves for this axis. */
export function describedPlay(airframe: Airframe, values: Values, axis: Axis): Play | null {
  const all = mixRows(airframe, values).flatMap(({ output, drives, mix }): Play[] => {
    const surface = airframe.surfaces.find((x) => x.id === drives);
    if (!surface || mix[axis] === 0) return [];
    const deg = surface.linkage?.slopDeg ?? USUAL_SLOP_DEG;
    const share = deg / surface.throwDeg / travelOf(values, output, mix[axis]);
    return [{ surface: actuatorNames[surface.id], deg, share }];
  });
  return all.reduce<Play | null>((a, b) => (a && a.share >= b.share ? a : b), null);
}

/**
 * The loop of an axis as a board is set.
 * @param speedMps through the air, of wings
 * @param pads which timer each output is on; of an output that is not listed every step has a pulse
 * @param set control set, 1 to 3
 * @param flown where it is not level, or not in a hover, or its battery not half empty
 * @returns null where nothing turns the craft so
 */
export function loopOf(
  airframe: Airframe,
  values: Values,
  pads: BoardDescription['pads'],
  axis: Axis,
  speedMps: number,
  set = 1,
  flown: FlownOtherwise = {},
): Loop | null {
  const model = axisModel(airframe, values, axis, speedMps, set, flown);
  if (!model) return null;
  const rows = mixRows(airframe, values);
  const shape = loopShapeOf(values);
  const pulseS = pulseWait(rows, values, axis, pads);
  return {
    model,
    gains: gainsOf(values, axis, set),
    shape,
    times: gainTimesOf(airframe, values, model.speedMps, flown),
    filters: gyroFilters(values, axis),
    loopS: loopLate(pulseS, shape),
    waitS: Math.max(pulseS, shape.everySteps * LOOP_S),
    slew: model.moves === 'servos' ? slewOf(airframe, values, axis, rows) : Number.POSITIVE_INFINITY,
    play: describedPlay(airframe, values, axis)?.share ?? 0,
    lateS: 0,
  };
}

/** How many of the images that pulses make of what is fast are reckoned with, to either side. */
const IMAGES = 3;
/** Below this share of the pulse rate images are too small to count. */
const IMAGES_FROM = 0.08;

/**
 * What goes round the loop once, at the error. Pulses sample what they send: near half their rate what is fast comes back as something
 * slow, so its images are added up (sampled-data systems, Åström and Wittenmark 1997, 7.2).
 * @param hz above 0, up to half the rate of the pulses
 */
export function openLoopAt(loop: Loop, hz: number): Complex {
  const rate = 1 / loop.waitS;
  let sum = onceAt(loop, hz);
  if (loop.waitS <= LOOP_S || hz < IMAGES_FROM * rate) return sum;
  for (let k = 1; k <= IMAGES; k++) {
    const [above, below] = [onceAt(loop, k * rate + hz), onceAt(loop, k * rate - hz)];
    sum = { re: sum.re + above.re + below.re, im: sum.im + above.im - below.im };
  }
  return sum;
}

function onceAt(loop: Loop, hz: number): Complex {
  const c = controllerAt(loop.gains, loop.shape, loop.times.gain, hz);
  const late = polar(1, -2 * Math.PI * hz * (loop.loopS + loop.lateS));
  return [throughAll(loop.filters, hz), holdAt(loop.waitS, hz), late, craftAt(loop.model, hz)].reduce(
    times,
    c,
  );
}
