import { FlyingCraft } from '#bench/flyingCraft.ts';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { fellF7 } from '#core/board/fellF7.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { WindSettings } from '#core/flight/wind.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { setEuler } from '#core/math/quaternion.ts';
import type { SwitchedMode } from '#core/modes/modes.ts';
import { EMPTY_PLAN, type FlightPlan } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { preparedSettings } from '#core/settings/preparedSettings.ts';
import { groundOf } from '#core/site/site.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { torvholm } from './demoCraft.ts';

export const mossvikGround = groundOf(torvholm)!;

/** Complete settings of a craft as a careful builder would have them. */
export function prepared(airframe: Airframe, change: Values = {}): Values {
  return { ...pfadCatalogue.defaults(), ...preparedSettings(airframe, fellF7, torvholm), ...change };
}

/** The far position of the attitude switch asks for this mode, instead of Rate. */
export const farSwitch = (mode: SwitchedMode): Values => ({
  'mode.rate.channel': 0,
  [`mode.${mode}.channel`]: 6,
  [`mode.${mode}.from`]: 1700,
  [`mode.${mode}.to`]: 2200,
});

export const calm: WindSettings = { speedMps: 0, fromDeg: 0, gustMps: 0 };

interface Options {
  readonly change?: Values;
  readonly wind?: WindSettings;
  readonly heightM?: number;
  readonly truth?: Partial<BenchTruth>;
  readonly seed?: number;
  readonly plan?: FlightPlan;
  readonly board?: BoardModel;
}

/** For tests: a prepared craft in the air over Mossvik in Level, armed on the ground there before. */
export function aloft(airframe: Airframe, options: Options = {}): FlyingCraft {
  const { change = {}, wind = calm, heightM = 150, seed = 5 } = options;
  const f = onGround(airframe, change, wind, options.truth ?? {}, seed, options.plan, options.board);
  f.radio.arm = true;
  run(f, 1);
  if (!f.pfad.controller.armed)
    throw new Error(JSON.stringify(f.pfad.controller.blockers().map((b) => b.why)));
  const p = f.plant;
  f.held = false;
  p.position[2] = -(torvholm.home.heightM + heightM);
  const c = f.pfad.controller;
  // Lifted by a crane: the board is told where it is, as if it had flown there.
  c.position.height = p.height;
  if (isRotorcraft(airframe)) {
    p.velocity.set(f.wind.velocity);
    p.velocity[2] = 0;
    f.radio.throttle = c.config.hover.throttle;
    for (const m of p.motors) m.omega = 500;
  } else {
    p.velocity[0] = 1.8 * stallSpeed(airframe) + f.wind.velocity[0]!;
    p.velocity[1] = f.wind.velocity[1]!;
    f.radio.throttle = c.config.energy.cruiseThrottle;
  }
  return f;
}

/** The same craft in a hand or on its feet at home, its board awake and with a fix. */
export function onGround(
  airframe: Airframe,
  change: Values = {},
  wind: WindSettings = calm,
  truth: Partial<BenchTruth> = {},
  seed = 5,
  plan: FlightPlan = EMPTY_PLAN,
  board: BoardModel = fellF7Model,
): FlyingCraft {
  const values = prepared(airframe, change);
  const refusals = pfadCatalogue.check(values);
  if (refusals.length > 0) throw new Error(refusals.map((r) => r.why).join(' '));
  const f = new FlyingCraft(
    airframe,
    board,
    values,
    { ...truthFromSettings(airframe, values), gnss: { start: 'hot', swapped: false, hz: 5 }, ...truth },
    {
      terrain: torvholm.terrain,
      home: torvholm.home,
      year: torvholm.year,
      homeEast: mossvikGround.homeEastM,
      homeNorth: mossvikGround.homeNorthM,
      homeHeightM: torvholm.home.heightM,
      wind,
    },
    seed,
    null,
    plan,
  );
  f.plant.position[2] = -(torvholm.home.heightM + f.plant.contact.depth);
  setEuler(f.plant.attitude, 0, 0, 0);
  f.radio.attitude = 1;
  run(f, 12);
  return f;
}

export function run(f: FlyingCraft, seconds: number, each?: () => void): void {
  for (let k = 0; k < seconds * 1000; k++) {
    f.step();
    each?.();
  }
}
