import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { hoverOf } from '../airframe/performance.ts';
import { windAtHeight } from '../flight/wind.ts';
import type { BenchTruth } from '../formats/benchTruth.ts';
import type { Scenario, ScenarioEvent } from '../formats/scenario.ts';
import { DEG } from '../math/scalar.ts';
import type { Fence } from '../plan/plan.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { Site } from '../site/site.ts';
import type { FaultId, PhaseId } from './ids.ts';

/**
 * What may go wrong, against where a flight is when it does. Each pair is a flight of its own: the pilot loses his link
 * soon after, so that the board has to bring the craft home with what is left.
 */

/** All that decides how a pair is flown. */
export interface FailWorld {
  readonly airframe: Airframe;
  readonly values: Values;
  readonly truth: BenchTruth;
  readonly site: Site;
  /** Fences on its board. */
  readonly fences?: readonly Fence[] | undefined;
  /** The flight that the pilot plans: its wind, its bearing, its seed. */
  readonly scenario: Scenario;
}

export const phaseNames: Readonly<Record<PhaseId, string>> = {
  launch: 'after the launch',
  out: 'far out',
  climb: 'as it begins to return',
  way: 'on the way home',
  home: 'above home',
};

export function faultName(id: FaultId, airframe: Airframe): string {
  const rotors = isRotorcraft(airframe);
  switch (id) {
    case 'nothing':
      return 'nothing';
    case 'jammed':
      return 'position jammed';
    case 'position':
      return 'GNSS receiver dead';
    case 'compass':
      return 'compass stuck';
    case 'airspeed':
      return 'ice in the airspeed tube';
    case 'barometer':
      return 'barometer stuck';
    case 'gyro':
      return 'gyro chip dead';
    case 'motor':
      return rotors ? 'one rotor stops' : airframe.motors.length > 1 ? 'one motor stops' : 'the motor stops';
    case 'surface':
      return 'one surface stuck';
    case 'lead':
      return 'loose battery lead';
    case 'cell':
      return 'a cell collapses';
    case 'wind':
      return 'wind as fast as it flies';
    case 'receiver':
      return 'receiver hides the loss';
    case 'several':
      return rotors ? 'no position and compass stuck' : 'no position and ice in the tube';
  }
}

/** Whether a craft has what is to fail. */
export function canFail(id: FaultId, { airframe, truth }: Pick<FailWorld, 'airframe' | 'truth'>): boolean {
  switch (id) {
    case 'compass':
      return truth.fitted.compass;
    case 'airspeed':
      return truth.fitted.airspeed;
    case 'surface':
      return airframe.surfaces.length > 0;
    default:
      return true;
  }
}

/** A pair far out, and one near home, m from it. */
const FAR_M = 2500;
const NEAR_M = 600;
/** The pilot's own height, m above home; low where the return begins with a climb. */
const HEIGHT_M = 120;
const LOW_M = 70;
const LIMIT_S = 1500;
/** So long after it failed a craft has to live with it before it counts as home, s: the air goes on as it was. */
const LIVES_S = 120;
/** A loss that nobody notices is flown no longer: nothing will happen any more, s. */
const HIDDEN_S = 300;
/** How much the wind of that row exceeds what the craft flies home at. */
const TOO_STRONG = 1.05;

/** When it fails and when the link is lost after that, s, and where it begins. */
const phases: Readonly<
  Record<
    PhaseId,
    { readonly failsS: number; readonly lostS: number; readonly there: boolean; readonly distanceM: number }
  >
> = {
  launch: { failsS: 25, lostS: 35, there: false, distanceM: 1200 },
  out: { failsS: 15, lostS: 25, there: true, distanceM: FAR_M },
  climb: { failsS: 24, lostS: 12, there: true, distanceM: FAR_M },
  way: { failsS: 60, lostS: 12, there: true, distanceM: FAR_M },
  home: { failsS: 75, lostS: 12, there: true, distanceM: NEAR_M },
};

/** When it fails in a phase, s after the flight begins. */
export const failsAt = (phase: PhaseId): number => phases[phase].failsS;

/** The flight of a pair. */
export function failScenario(world: FailWorld, fault: FaultId, phase: PhaseId): Scenario {
  const { values, site, scenario } = world;
  const s = settingsOf(values);
  const { failsS, lostS, there, distanceM } = phases[phase];
  const returnM = Math.min(1500, Math.max(20, s.number('return.height')));
  // On the way it is at its height already; there is nothing to climb.
  const heightM = phase === 'way' || phase === 'home' ? returnM : phase === 'climb' ? LOW_M : HEIGHT_M;
  const { bearingDeg } = scenario.outbound;
  const events: ScenarioEvent[] = [
    ...eventsOf(world, fault, failsS, bearingDeg, heightM),
    { atS: lostS, do: 'link-lost' },
    ...(fault === 'nothing' || fault === 'receiver'
      ? []
      : [stays(world, fault, failsS, bearingDeg, heightM)]),
  ];
  return {
    seed: scenario.seed,
    home: site.home,
    wind: scenario.wind,
    outbound: { bearingDeg, distanceM, heightM, ...(there ? { begins: 'there' as const } : {}) },
    events: events.sort((a, b) => a.atS - b.atS),
    limitS: fault === 'receiver' ? HIDDEN_S : LIMIT_S,
    ...(scenario.air ? { air: scenario.air } : {}),
  };
}

/** The wind as it is by then, once more: nothing changes, and the flight is not over before. */
function stays(
  world: FailWorld,
  fault: FaultId,
  failsS: number,
  bearingDeg: number,
  heightM: number,
): ScenarioEvent {
  const { speedMps, fromDeg } = world.scenario.wind;
  const blows = fault === 'wind' ? eventsOf(world, fault, failsS, bearingDeg, heightM)[0]! : null;
  const now = blows?.do === 'wind' ? blows : { do: 'wind' as const, speedMps, fromDeg };
  return { ...now, atS: failsS + LIVES_S };
}

function eventsOf(
  { airframe, values }: FailWorld,
  fault: FaultId,
  atS: number,
  bearingDeg: number,
  heightM: number,
): ScenarioEvent[] {
  const fails = (
    device: Extract<ScenarioEvent, { do: 'fault' }>['device'],
    kind: Extract<ScenarioEvent, { do: 'fault' }>['fault'],
  ): ScenarioEvent => ({ atS, do: 'fault', device, fault: kind });
  const rotors = isRotorcraft(airframe);
  switch (fault) {
    case 'nothing':
      return [];
    case 'jammed':
      return [fails('gnss', 'jammed')];
    case 'position':
      return [fails('gnss', 'dead')];
    case 'compass':
      return [fails('compass', 'stuck')];
    case 'airspeed':
      return [fails('airspeed', 'stuck')];
    case 'barometer':
      return [fails('barometer', 'stuck')];
    case 'gyro':
      return [fails('gyro', 'dead')];
    case 'motor':
      return [fails('motor', 'dead')];
    case 'surface':
      return [fails('surface', 'stuck')];
    case 'lead':
      return [fails('lead', 'intermittent')];
    case 'cell':
      return [fails('cell', 'dead')];
    case 'receiver':
      return [{ atS: 0, do: 'fault', device: 'receiver', fault: 'stuck' }];
    case 'several':
      return [fails('gnss', 'dead'), fails(rotors ? 'compass' : 'airspeed', 'stuck')];
    case 'wind': {
      const s = settingsOf(values);
      const speed = rotors
        ? hoverOf(airframe).topSpeedMps(s.number('hover.tilt') * DEG)
        : s.number('return.speed');
      // As it blows at the height that it flies at, from where home lies.
      const at10 = (TOO_STRONG * speed) / windAtHeight(1, heightM);
      return [{ atS, do: 'wind', speedMps: Math.min(40, at10), fromDeg: (bearingDeg + 180) % 360 }];
    }
  }
}

/** Settings that cannot matter to a pair, so that an edit of them leaves its flight as it was. */
function matters(key: string, world: FailWorld, phase: PhaseId): boolean {
  const { values, airframe } = world;
  const s = settingsOf(values);
  // No pair looks at its log or is turned over.
  if (/^(flip|log|serial|telemetry)\./.test(key)) return false;
  if (key.startsWith('launch.')) return phase === 'launch';
  if (key.startsWith('fence.'))
    return s.number('fence.radius') > 0 || s.number('fence.top') > 0 || (world.fences ?? []).length > 0;
  if (key.startsWith('land.') && key !== 'land.disarm') return s.choice('return.arrival') === 'land';
  if (key.startsWith('hover.')) return isRotorcraft(airframe);
  if (key.startsWith('pitot.')) return world.truth.fitted.airspeed;
  const row = /^mix\.row\.(\d+)\./.exec(key);
  return row ? values[`mix.row.${row[1]}.to`] !== 0 : true;
}

/** All that a pair's flight rests on, for a print. */
export function restsOf(world: FailWorld, fault: FaultId, phase: PhaseId): unknown {
  const settings = Object.fromEntries(
    Object.entries(world.values).filter(([key]) => matters(key, world, phase)),
  );
  return [settings, world.airframe, world.truth, failScenario(world, fault, phase)];
}

/** How a flight ended, as a person sorts it. */
export type FailEnd = 'home' | 'down' | 'lost';

/** Down where it was, upright and of its own will, is not home, and no wreck either. */
export function endOf(verdict: string): FailEnd {
  return verdict === 'home' ? 'home' : verdict === 'elsewhere' ? 'down' : 'lost';
}
