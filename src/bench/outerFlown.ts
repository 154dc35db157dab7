import { isRotorcraft } from '#core/airframe/airframe.ts';
import { type Asked, askedOf, type ManoeuvreId, manoeuvresOf } from '#core/answers/outer/manoeuvres.ts';
import type { OuterTraces } from '#core/answers/outer/predict.ts';
import { aboutItsMiddle, newTrace, TRACE_S, type Trace } from '#core/answers/outer/trace.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import { rollOf } from '#core/math/quaternion.ts';
import { type SwitchedMode, switchedModes } from '#core/modes/modes.ts';
import { eastOf, latitudeAt, longitudeAt, northOf } from '#core/navigation/earth.ts';
import { type FlightPlan, type RoutePoint, USUAL_POINT } from '#core/plan/plan.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { settingsOf } from '#core/settings/typed.ts';
import type { FlyingCraft } from './flyingCraft.ts';
import { Rehearsal, type RehearsalInput } from './rehearsal.ts';
import type { Refused } from './stepFlown.ts';

/** Over home it begins, m. */
const HEIGHT_M = 120;
const STEPS = 1000;
/** Before a thing is asked the craft flies steadily, s. */
const SETTLES_S = 20;
const LEVEL_S = 5;
/** Points lie so far ahead that no end of a line is met, m. */
const FAR_M = 4000;

/** By which mode each is flown. */
const modes: Readonly<Record<ManoeuvreId, SwitchedMode>> = {
  bank: 'level',
  height: 'route',
  speed: 'route',
  path: 'route',
  circle: 'loiter',
  go: 'position',
  gusts: 'position',
};

/** The same settings with one mode behind Level on the attitude switch, and no other: sticks as they are, without softness. */
export function onlyMode(values: Values, channel: number, mode: SwitchedMode): Values {
  const off = Object.fromEntries(switchedModes.map((m) => [`mode.${m}.channel`, 0]));
  const on = (m: SwitchedMode, from: number, to: number): Values => ({
    [`mode.${m}.channel`]: channel,
    [`mode.${m}.from`]: from,
    [`mode.${m}.to`]: to,
  });
  return {
    ...values,
    ...off,
    ...on('level', 1300, 1700),
    ...(mode === 'level' ? {} : on(mode, 1701, 2200)),
    'rx.expo': 0,
  };
}

/** Points straight ahead that lead it there and then ask for what is to be asked. */
function planOf(input: RehearsalInput, id: ManoeuvreId, asked: Asked): FlightPlan {
  const { home } = input.scenario;
  const at = (north: number, east: number, more: Partial<RoutePoint>): RoutePoint => ({
    ...USUAL_POINT,
    lat: latitudeAt(home.lat, north),
    lon: longitudeAt(home.lat, home.lon, east),
    heightM: HEIGHT_M,
    ...more,
  });
  const speed = settingsOf(input.values).number('nav.speed');
  const height = { heightM: HEIGHT_M + asked.height };
  if (isRotorcraft(input.airframe))
    return {
      end: 'circle',
      fences: [],
      points: [
        at(0, 0, { do: 'circle', seconds: SETTLES_S }),
        at(0, 0, { ...height, do: 'circle', seconds: 600 }),
      ],
    };
  const ahead = SETTLES_S * speed;
  const [north, east] = [Math.cos(asked.off), -Math.sin(asked.off)];
  return {
    end: 'circle',
    fences: [],
    points: [
      at(ahead, 0, {}),
      at(ahead + FAR_M * north, FAR_M * east, {
        ...height,
        ...(id === 'speed' ? { speedMps: speed + asked.speed } : {}),
      }),
    ],
  };
}

const run = (craft: FlyingCraft, seconds: number) => {
  for (let k = 0; k < seconds * STEPS; k++) craft.step();
};

/** Where the line leads that it now follows, rad from north: from where it is to the last point. */
function lineOf({ plant, field }: FlyingCraft, { points }: FlightPlan): number {
  const { lat, lon } = points.at(-1)!;
  const north = northOf(field.home.lat, lat) - plant.position[0]!;
  const east = eastOf(field.home.lat, field.home.lon, lon) - plant.position[1]!;
  return Math.atan2(east, north);
}

/** One of them, flown from a steady flight over home. */
function flyOne(input: RehearsalInput, id: ManoeuvreId): Trace | Refused {
  const { scenario: s, truth } = input;
  const asked = askedOf(input.airframe, input.values, id);
  const wind = {
    speedMps: asked.windMps / windAtHeight(1, HEIGHT_M),
    fromDeg: 0,
    gustMps: asked.gustMps,
  };
  const mode = modes[id];
  const plan = planOf(input, id, asked);
  const { craft, result } = new Rehearsal({
    ...input,
    values: onlyMode(input.values, truth.channels.attitude, mode),
    plan,
    scenario: {
      ...s,
      wind,
      outbound: { bearingDeg: 0, distanceM: 0, heightM: HEIGHT_M, begins: 'there' },
      events: [],
    },
  });
  if (result) return { refused: result.reason };
  const { radio, plant, pfad } = craft;
  const { controller } = pfad;
  run(craft, LEVEL_S);
  if (mode !== 'level') radio.attitude = 2;
  if (mode === 'route') {
    const most = 4 * SETTLES_S * STEPS;
    for (let k = 0; k < most && controller.route.at < 1; k++) craft.step();
    if (controller.route.at < 1)
      return { refused: 'It did not come to where something was to be asked of it.' };
  } else if (mode === 'position') run(craft, SETTLES_S);
  if (mode !== 'level' && mode !== 'loiter' && controller.mode !== mode)
    return { refused: `It flew in another mode than was asked for: ${controller.mode}.` };
  if (id === 'bank') radio.roll = asked.bank / controller.loops.set.bank;
  if (id === 'go') radio.pitch = -asked.speed / controller.config.hover.speed;
  const from = { north: plant.position[0]!, east: plant.position[1]!, height: plant.height };
  const wings = !isRotorcraft(input.airframe);
  const before = id === 'speed' ? plant.airspeed : 0;
  const trace = newTrace(asked.seconds);
  const line = mode === 'route' && wings ? lineOf(craft, plan) : 0;
  const [cos, sin] = [Math.cos(line), Math.sin(line)];
  for (let k = 0; k < trace.bank.length; k++) {
    const [north, east] = [plant.position[0]! - from.north, plant.position[1]! - from.east];
    trace.bank[k] = rollOf(plant.attitude);
    trace.height[k] = plant.height - from.height;
    trace.speed[k] = wings ? plant.airspeed - before : Math.hypot(plant.velocity[0]!, plant.velocity[1]!);
    trace.north[k] = cos * north + sin * east;
    trace.east[k] = cos * east - sin * north;
    if (id === 'go' && k * TRACE_S >= asked.letGoS) radio.pitch = 0;
    run(craft, TRACE_S);
  }
  return id === 'gusts' ? aboutItsMiddle(trace) : trace;
}

/** Everything that is asked of the outer loops of a craft, each flown by itself in still air or in the wind that it is about. */
export function flyOuter(input: RehearsalInput): { readonly flown: OuterTraces } | Refused {
  const flown: Partial<Record<ManoeuvreId, Trace>> = {};
  for (const id of manoeuvresOf(input.airframe)) {
    const one = flyOne(input, id);
    if ('refused' in one) return one;
    flown[id] = one;
  }
  return { flown };
}
