/**
 * Flights of the audit with what is to be expected of each, worked out before anything is flown and by other means than
 * the bench: a closed form, a look at the terrain, or what such a device or mistake must lead to.
 */

import { readFileSync } from 'node:fs';
import type { FlightJob } from '../../src/cli/batch.ts';
import { kinds } from '../../src/core/airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '../../src/core/airframe/airframe.ts';
import { unfitness } from '../../src/core/airframe/fitness.ts';
import { flock, turnstone } from '../../src/core/airframe/library.ts';
import { performanceOf, stallSpeed } from '../../src/core/airframe/performance.ts';
import { fellF7Model } from '../../src/core/board/boards.ts';
import { groundHeight } from '../../src/core/flight/terrain.ts';
import { type BenchTruth, truthFromSettings } from '../../src/core/formats/benchTruth.ts';
import type { Cause, Verdict } from '../../src/core/formats/rehearsalResult.ts';
import {
  type FaultDevice,
  type FaultKind,
  parseScenario,
  type Scenario,
} from '../../src/core/formats/scenario.ts';
import { Random } from '../../src/core/math/random.ts';
import { DEG, GRAVITY } from '../../src/core/math/scalar.ts';
import type { Values } from '../../src/core/settings/catalogue.ts';
import { groundOf } from '../../src/core/site/site.ts';
import { prepared } from '../../src/testing/aloft.ts';
import { anyCraft } from '../../src/testing/anyCraft.ts';
import { torvholm } from '../../src/testing/demoCraft.ts';

/** What may come of a flight: one of these verdicts, and when it is not home, one of these causes. */
interface Expectation {
  readonly verdicts: readonly Verdict[];
  readonly causes: readonly Cause[];
  /** Where the expectation comes from. */
  readonly since: string;
}

export interface AuditFlight {
  readonly name: string;
  readonly group: string;
  readonly job: FlightJob;
  readonly expect: Expectation;
}

const HOME: readonly Verdict[] = ['home'];
const { homeEastM: HOME_EAST, homeNorthM: HOME_NORTH } = groundOf(torvholm)!;

const short = (airframe: Airframe) => airframe.name.split(' ')[0]!.toLowerCase();

interface Setting {
  readonly airframe?: Airframe;
  readonly values?: Values;
  readonly truth?: Partial<BenchTruth>;
  readonly turn?: (truth: BenchTruth) => BenchTruth;
}

function flightOf(
  group: string,
  name: string,
  airframe: Airframe,
  scenario: Partial<Scenario>,
  expect: Expectation,
  setting: Setting = {},
): AuditFlight {
  const body = setting.airframe ?? airframe;
  const settings = prepared(airframe, setting.values);
  const built = truthFromSettings(airframe, prepared(airframe));
  const truth = setting.turn ? setting.turn(built) : { ...built, ...setting.truth };
  return {
    group,
    name,
    expect,
    job: {
      airframe: body,
      board: fellF7Model,
      values: settings,
      truth,
      scenario: scenarioOf(scenario),
      flyOnS: 600,
    },
  };
}

function scenarioOf(change: Partial<Scenario>): Scenario {
  const parsed = parseScenario(
    {
      seed: 11,
      home: torvholm.home,
      wind: { speedMps: 3, fromDeg: 230, gustMps: 0.6 },
      outbound: { bearingDeg: 60, distanceM: 900, heightM: 120 },
      events: [{ atS: 130, do: 'link-lost' }],
      limitS: 2400,
      ...change,
    },
    torvholm,
  );
  if (!parsed.ok) throw new Error(parsed.why);
  return parsed.scenario;
}

/** Wind at a height by the logarithm over 0.03 m, written out here anew. */
const windAt = (speed: number, h: number) => (speed * Math.log(h / 0.03)) / Math.log(10 / 0.03);

/** Highest ground on the straight line from a place to home, and about home, m above home. */
function groundOnWay(bearingDeg: number, distanceM: number, aside = 0): number {
  let most = -1e9;
  for (let d = 0; d <= distanceM; d += 15)
    for (const off of [-aside, 0, aside]) {
      const east = HOME_EAST + d * Math.sin(bearingDeg * DEG) + off * Math.cos(bearingDeg * DEG);
      const north = HOME_NORTH + d * Math.cos(bearingDeg * DEG) - off * Math.sin(bearingDeg * DEG);
      most = Math.max(most, groundHeight(torvholm.terrain, east, north));
    }
  return most - torvholm.home.heightM;
}

/** Whether the way out at a height clears the ground by some metres, so that nothing but the return is in question. */
const outClear = (bearing: number, distance: number, height: number) =>
  groundOnWay(bearing, distance + 350, 150) < height - 25;

/** The demo craft in winds from all sides, up to well below what they fly home at: they come home. */
function inWinds(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (const a of flock) {
    const cruise = isRotorcraft(a) ? 11 : 1.8 * stallSpeed(a);
    for (const share of [0, 0.2, 0.35, 0.45])
      for (const fromDeg of share === 0 ? [0] : [20, 140, 260]) {
        const speedMps = Number((share * cruise).toFixed(1));
        out.push(
          flightOf(
            'winds',
            `${short(a)} in ${speedMps} m/s from ${fromDeg}`,
            a,
            {
              wind: { speedMps, fromDeg, gustMps: Number((0.18 * speedMps).toFixed(2)) },
              seed: 100 + fromDeg,
            },
            { verdicts: HOME, causes: [], since: `wind at 10 m is ${Math.round(100 * share)} % of cruise` },
          ),
        );
      }
  }
  return out;
}

/** Winds about the limit of the return: wind triangle straight against it, at the return height. */
function nearTheLimit(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (const a of flock.filter((x) => !isRotorcraft(x)))
    for (const share of [0.72, 0.85, 1, 1.2, 1.5]) {
      const height = 100;
      const speed = 2.4 * stallSpeed(a);
      const up = share * speed;
      const at10 = Number((up / (windAt(1, height) as number)).toFixed(1));
      // Faster than it flies even with what it adds when held up, at the lowest height it goes down to: never home.
      const floor = windAt(at10, 60);
      const never = floor > 1.08 * (speed + 3);
      const surely = windAt(at10, height) < 0.78 * speed;
      out.push(
        flightOf(
          'limit',
          `${short(a)} straight against ${at10} m/s`,
          a,
          {
            wind: { speedMps: at10, fromDeg: 240, gustMps: 0.5 },
            outbound: { bearingDeg: 60, distanceM: 700, heightM: 100 },
            events: [{ atS: 110, do: 'link-lost' }],
            limitS: 3000,
          },
          {
            verdicts: never
              ? ['no-progress', 'energy', 'terrain', 'timeout', 'lost-control', 'not-flown']
              : surely
                ? ['home']
                : ['home', 'no-progress', 'energy', 'terrain', 'timeout', 'lost-control', 'not-flown'],
            causes: ['wind', 'power'],
            since: `wind is ${Math.round(100 * share)} % of the return speed at ${height} m`,
          },
          { values: { 'return.height': 100, 'return.climb': 'at-least' } },
        ),
      );
    }
  for (const a of flock.filter(isRotorcraft))
    for (const speedMps of [10, 13, 26]) {
      // m g tan(tilt) = (1/2) rho V^2 C_D A bounds the speed from above (the rotors' own drag left out).
      const top = Math.sqrt((2 * a.massKg * GRAVITY * Math.tan(36 * 1.3 * DEG)) / (1.225 * a.bodyDragM2));
      const never = windAt(speedMps, 60) > top;
      out.push(
        flightOf(
          'limit',
          `${short(a)} in ${speedMps} m/s`,
          a,
          {
            wind: { speedMps, fromDeg: 240, gustMps: 1 },
            outbound: { bearingDeg: 60, distanceM: 300, heightM: 60 },
            events: [{ atS: 90, do: 'link-lost' }],
          },
          {
            verdicts: never
              ? ['no-progress', 'energy', 'terrain', 'timeout', 'lost-control']
              : ['home', 'no-progress', 'energy', 'timeout', 'bad-landing', 'terrain', 'lost-control'],
            causes: ['wind', 'power'],
            since: `tilt gives at most ${top.toFixed(0)} m/s`,
          },
          { values: { 'return.height': 60 } },
        ),
      );
    }
  return out;
}

/** Craft by chance: those that can fly come home in calm and in a breeze; the others are refused. */
function anyOnes(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (let k = 0; k < 45; k++) {
    const kind = kinds[k % kinds.length]!;
    const a = anyCraft(kind, 300 + k);
    if (unfitness(a).some((u) => u.grade === 'cannot')) continue;
    const rotors = isRotorcraft(a);
    const breeze = Number((0.25 * (rotors ? 9 : 1.8 * stallSpeed(a))).toFixed(1));
    for (const speedMps of [0, breeze])
      out.push(
        flightOf(
          'any craft',
          `${kind} ${300 + k}, ${a.massKg.toFixed(2)} kg in ${speedMps} m/s`,
          a,
          {
            wind: { speedMps, fromDeg: 200, gustMps: Number((0.18 * speedMps).toFixed(2)) },
            outbound: { bearingDeg: 70, distanceM: rotors ? 400 : 800, heightM: 110 },
            events: [{ atS: 120, do: 'link-lost' }],
            seed: 40 + k,
          },
          { verdicts: HOME, causes: [], since: 'a craft that can fly, in a breeze' },
          { values: { 'return.height': 110 } },
        ),
      );
  }
  return out;
}

interface FaultCase {
  readonly device: FaultDevice;
  readonly fault: FaultKind;
  readonly wing: Expectation | null;
  readonly rotors: Expectation | null;
}
const home = (since: string): Expectation => ({ verdicts: HOME, causes: [], since });
const device = (verdicts: readonly Verdict[], since: string): Expectation => ({
  verdicts,
  causes: ['device'],
  since,
});
const noAttitude = device(['lost-control', 'terrain', 'bad-landing', 'broken'], 'no rates, no attitude');
const noPlace = device(
  ['elsewhere', 'bad-landing'],
  'no fix for longer than is flown blind, so it comes down',
);
const noHeading = device(
  ['home', 'elsewhere', 'bad-landing', 'astray', 'lost-control', 'no-progress', 'timeout'],
  'the gyro keeps a heading for minutes, not for ever',
);
const faultCases: readonly FaultCase[] = [
  { device: 'gyro', fault: 'dead', wing: noAttitude, rotors: noAttitude },
  { device: 'gyro', fault: 'stuck', wing: noAttitude, rotors: noAttitude },
  { device: 'barometer', fault: 'dead', wing: home('height by GNSS'), rotors: null },
  { device: 'barometer', fault: 'stuck', wing: home('found out, height by GNSS'), rotors: null },
  {
    device: 'barometer',
    fault: 'slow',
    wing: home('five times a second is enough'),
    rotors: home('the same'),
  },
  { device: 'compass', fault: 'dead', wing: home('a wing needs none'), rotors: noHeading },
  { device: 'airspeed', fault: 'dead', wing: home('airspeed by ground and wind'), rotors: home('has none') },
  {
    device: 'airspeed',
    fault: 'stuck',
    wing: home('found out, by ground and wind'),
    rotors: home('has none'),
  },
  { device: 'airspeed', fault: 'slow', wing: home('slow air speed is still one'), rotors: home('has none') },
  { device: 'rangefinder', fault: 'dead', wing: home('none is fitted'), rotors: home('none is fitted') },
  { device: 'gnss', fault: 'dead', wing: noPlace, rotors: noPlace },
  { device: 'gnss', fault: 'jammed', wing: noPlace, rotors: noPlace },
  {
    device: 'gnss',
    fault: 'stuck',
    wing: device(['astray', 'elsewhere', 'energy', 'timeout', 'terrain'], 'it believes to stand still'),
    rotors: device(
      ['astray', 'elsewhere', 'lost-control', 'energy', 'terrain', 'bad-landing', 'timeout'],
      'it believes to stand still and leans to get home',
    ),
  },
  { device: 'voltage', fault: 'dead', wing: home('the battery is not flown by'), rotors: home('the same') },
  { device: 'voltage', fault: 'stuck', wing: home('the battery is not flown by'), rotors: home('the same') },
];

/** Each device failing on the way home, on wings and on rotors. */
function faults(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (const a of flock) {
    const rotors = isRotorcraft(a);
    for (const f of faultCases) {
      const expect = rotors ? f.rotors : f.wing;
      if (!expect) continue;
      out.push(
        flightOf(
          'faults',
          `${short(a)}: ${f.device} ${f.fault}`,
          a,
          {
            wind: { speedMps: 2, fromDeg: 230, gustMps: 0.3 },
            outbound: { bearingDeg: 60, distanceM: rotors ? 700 : 1500, heightM: 120 },
            events: [
              { atS: rotors ? 120 : 150, do: 'link-lost' },
              { atS: rotors ? 126 : 156, do: 'fault', device: f.device, fault: f.fault },
            ],
            limitS: 1800,
          },
          expect,
          { values: { 'return.height': 120, 'return.climb': 'at-least' } },
        ),
      );
    }
  }
  return out;
}

const LOST: readonly Verdict[] = ['lost-control', 'not-flown', 'terrain', 'bad-landing'];

/** Every surface reversed, motors on each other's pads, the board turned: none of them flies. */
function wiring(): AuditFlight[] {
  const out: AuditFlight[] = [];
  const add = (a: Airframe, name: string, turn: (t: BenchTruth) => BenchTruth, expect: Expectation) =>
    out.push(flightOf('wiring', `${short(a)}: ${name}`, a, {}, expect, { turn }));
  const wrong = (since: string, verdicts = LOST): Expectation => ({ verdicts, causes: ['wiring'], since });
  for (const a of flock) {
    for (const s of a.surfaces) {
      const one = (t: BenchTruth): BenchTruth => ({
        ...t,
        pads: t.pads.map((p) => (p.actuator === s.id ? { ...p, direction: p.direction === 1 ? -1 : 1 } : p)),
      });
      if (s.id === 'elevator' || s.id.endsWith('elevon') || s.id === 'tail-servo')
        add(a, `${s.id} reversed`, one, wrong('the stabiliser adds to what it should stop'));
    }
    const ailerons = a.surfaces.filter((s) => /aileron|elevon/.test(s.id)).map((s) => s.id as string);
    if (ailerons.length === 2)
      add(
        a,
        'roll reversed',
        (t) => ({
          ...t,
          pads: t.pads.map((p) =>
            ailerons.includes(p.actuator)
              ? { ...p, direction: p.direction === 1 ? (-1 as const) : (1 as const) }
              : p,
          ),
        }),
        wrong('roll runs away'),
      );
    if (isRotorcraft(a)) {
      const [m0, m1] = [a.motors[0]!.id, a.motors.at(-1)!.id];
      add(
        a,
        'two motors on each other’s pads',
        (t) => {
          const at = (id: string) => t.pads.find((p) => p.actuator === id)!.output;
          return {
            ...t,
            pads: t.pads.map((p) =>
              p.actuator === m0 ? { ...p, output: at(m1) } : p.actuator === m1 ? { ...p, output: at(m0) } : p,
            ),
          };
        },
        wrong('it flips as it lifts off'),
      );
      add(
        a,
        'nothing drives one motor',
        (t) => ({ ...t, pads: t.pads.filter((p) => p.actuator !== m0) }),
        wrong('it falls over the dead motor'),
      );
    }
    for (const yaw of [90, 180])
      add(a, `board turned by ${yaw}`, (t) => ({ ...t, mount: { ...t.mount, yawDeg: yaw } }), {
        verdicts: LOST,
        causes: ['mounting'],
        since: 'roll is taken for pitch, or both for their opposite',
      });
    add(a, 'board upside down', (t) => ({ ...t, mount: { ...t.mount, rollDeg: 180 } }), {
      verdicts: [...LOST, 'not-flown'],
      causes: ['mounting', 'arming'],
      since: 'it believes to be on its back',
    });
  }
  return out;
}

/** Balance moved behind the neutral point. */
function balances(): AuditFlight[] {
  return flock
    .filter((a) => !isRotorcraft(a))
    .flatMap((a) => {
      const p = performanceOf(a);
      return [0.3, 0.2, 0.12].map((behind) =>
        flightOf(
          'balance',
          `${short(a)}: balance ${Math.round(100 * behind)} % of the chord behind`,
          a,
          {},
          {
            verdicts: [...LOST, 'broken', 'home'],
            causes: ['balance', 'structure'],
            since: 'the nose runs away; loops may hold it, and that is said',
          },
          { airframe: { ...a, cgAftM: p.neutralPointAftM + behind * p.meanChordM } },
        ),
      );
    });
}

/** Weight moved along a craft with rotors: the moment of its weight against what the rotors behind can add. */
function rotorBalances(): AuditFlight[] {
  return flock.filter(isRotorcraft).flatMap((a) => {
    const reach = Math.max(...a.motors.map((m) => m.aftM)) - a.cgAftM;
    return [0.03, 0.7, 1.1].map((share) =>
      flightOf(
        'balance',
        `${short(a)}: balance ${Math.round(100 * share)} % of its reach behind the rotors' middle`,
        a,
        {},
        share < 0.1
          ? { verdicts: ['home'], causes: [], since: 'a thirtieth of the reach is a few per cent of thrust' }
          : {
              verdicts: share > 1 ? [...LOST] : [...LOST, 'home'],
              causes: ['balance'],
              since: 'the weight hangs beside or behind the last rotor: no sharing of thrust carries it',
            },
        { airframe: { ...a, cgAftM: a.cgAftM + share * reach } },
      ),
    );
  });
}

/** Heavier and heavier: the arm's energy decides. */
function masses(): AuditFlight[] {
  return flock
    .filter((a) => !isRotorcraft(a))
    .flatMap((a) =>
      [1.15, 3, 4].map((k) => {
        const heavy = { ...a, massKg: a.massKg * k };
        // What an arm gives, worked out here anew: 110 J into craft and arm, a run of 2.5 m/s.
        const gives = 2.5 + Math.sqrt(220 / (heavy.massKg + 0.9));
        const asks = 1.1 * stallSpeed(heavy);
        const falls = gives < 0.95 * asks;
        return {
          ...flightOf(
            'mass',
            `${short(a)} at ${heavy.massKg.toFixed(1)} kg`,
            heavy,
            { wind: { speedMps: 0, fromDeg: 0, gustMps: 0 } },
            falls
              ? {
                  verdicts: ['not-flown'],
                  causes: ['launch'],
                  since: `an arm gives ${gives.toFixed(1)} of ${asks.toFixed(1)} m/s`,
                }
              : {
                  verdicts: gives > 1.05 * asks ? ['home'] : ['home', 'not-flown', 'lost-control'],
                  causes: ['launch', 'power'],
                  since: `an arm gives ${gives.toFixed(1)} of ${asks.toFixed(1)} m/s`,
                },
            { values: { 'return.height': 110 } },
          ),
        };
      }),
    );
}

/** Too little in the battery, or a pack that cannot give it. */
function batteries(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (const a of flock) {
    const small = { ...a, battery: { ...a.battery, capacityMah: Math.round(0.05 * a.battery.capacityMah) } };
    out.push(
      flightOf(
        'battery',
        `${short(a)} with a twentieth of its battery`,
        a,
        {
          outbound: { bearingDeg: 60, distanceM: 1500, heightM: 120 },
          events: [{ atS: 240, do: 'link-lost' }],
        },
        {
          verdicts: ['energy', 'not-flown', 'terrain', 'elsewhere', 'lost-control'],
          causes: ['power', 'arming', 'setting'],
          since: 'used within two minutes',
        },
        { airframe: small },
      ),
    );
    const tired = { ...a, battery: { ...a.battery, cellResistanceOhm: 0.2 } };
    const ohm = 0.2 * a.battery.cells;
    const watts = (4 * a.battery.cells) ** 2 / 4 / ohm;
    out.push(
      flightOf(
        'battery',
        `${short(a)} on cells of 0.2 ohm`,
        a,
        {},
        {
          verdicts: isRotorcraft(a)
            ? ['not-flown', 'energy', 'lost-control', 'terrain']
            : ['not-flown', 'energy', 'lost-control', 'terrain', 'home', 'no-progress', 'timeout'],
          causes: ['power', 'launch', 'setting'],
          since: `such a pack gives at most ${watts.toFixed(0)} W`,
        },
        { airframe: tired },
      ),
    );
  }
  return out;
}

/** The ground on the way home against the return height, looked up in the terrain. */
function terrains(): AuditFlight[] {
  const out: AuditFlight[] = [];
  const random = new Random(71);
  for (let k = 0; out.length < 60 && k < 4000; k++) {
    const bearingDeg = Math.round(360 * random.uniform());
    const distanceM = Math.round(1200 + 3600 * random.uniform());
    const returnM = 5 * Math.round((40 + 260 * random.uniform()) / 5);
    const ridge = groundOnWay(bearingDeg, distanceM);
    const wide = groundOnWay(bearingDeg, distanceM, 120);
    const heightM = Math.max(80, Math.round(groundOnWay(bearingDeg, distanceM + 400, 250) + 70));
    if (heightM > 470 || !outClear(bearingDeg, distanceM, heightM)) continue;
    // The ridge must lie between both, far enough from either end that the craft is at its return height there.
    const inside =
      groundOnWay(bearingDeg, distanceM * 0.7) === ridge && ridge > groundOnWay(bearingDeg, 350) + 20;
    const hits = inside && ridge > returnM + 12 && heightM > returnM + 30;
    const clears = wide < returnM - 40 && groundOnWay(bearingDeg, 400, 300) < 60;
    if (!hits && !clears) continue;
    if (out.filter((f) => f.expect.verdicts[0] === (hits ? 'terrain' : 'home')).length >= 30) continue;
    const out0 = 60 + distanceM / 13;
    // It sinks to its return height on the way, at two metres a second: it has to be down there before the ridge.
    let peakAt = 0;
    for (let d = 0; d <= distanceM; d += 15)
      if (groundOnWay(bearingDeg, d) >= ridge - 1e-9) {
        peakAt = d;
        break;
      }
    const sunk = ((distanceM - peakAt) / 21) * 1.8;
    if (hits && heightM - sunk > ridge - 12) continue;
    out.push(
      flightOf(
        'terrain',
        `turnstone home at ${returnM} m from ${distanceM} m on ${bearingDeg}, ridge of ${ridge.toFixed(0)} m`,
        turnstone,
        {
          wind: { speedMps: 0, fromDeg: 0, gustMps: 0 },
          outbound: { bearingDeg, distanceM, heightM },
          events: [{ atS: Math.round(out0 + heightM / 2.5 + 60), do: 'link-lost' }],
          limitS: 3000,
          seed: k,
        },
        hits
          ? { verdicts: ['terrain'], causes: ['ground'], since: 'the ridge is higher than the return' }
          : { verdicts: HOME, causes: [], since: 'the ridge is well below the return' },
        { values: { 'return.height': returnM, 'return.climb': 'climb-on-the-way' } },
      ),
    );
  }
  return out;
}

/** What settings ask for, done. */
function settings(): AuditFlight[] {
  const out: AuditFlight[] = [];
  for (const a of flock) {
    const rotors = isRotorcraft(a);
    const add = (name: string, values: Values, expect: Expectation, scenario: Partial<Scenario> = {}) =>
      out.push(flightOf('settings', `${short(a)}: ${name}`, a, scenario, expect, { values }));
    const asked = (
      since: string,
      verdicts: readonly Verdict[] = ['elsewhere', 'bad-landing'],
    ): Expectation => ({
      verdicts,
      causes: ['setting'],
      since,
    });
    add(
      'stops its motors',
      { 'lost.action': 'cut' },
      asked('so the settings ask', ['elsewhere', 'lost-control', 'bad-landing', 'terrain']),
    );
    add(
      'comes down where it is',
      { 'lost.action': 'glide' },
      {
        ...asked('so the settings ask'),
        causes: ['setting', 'wind'],
      },
    );
    add(
      'asks for twenty satellites',
      { 'return.satellites': 20 },
      {
        ...asked('fourteen are used'),
        causes: ['setting', 'wind'],
      },
    );
    add(
      'gives up after a minute',
      { 'return.timeout': 60, 'return.height': 120, 'return.climb': 'at-least' },
      { ...asked('it flies longer than that', ['elsewhere', 'bad-landing']), causes: ['setting', 'wind'] },
      {
        outbound: { bearingDeg: 60, distanceM: rotors ? 1300 : 2600, heightM: 120 },
        events: [{ atS: rotors ? 160 : 230, do: 'link-lost' }],
      },
    );
    add(
      'is never called home',
      {},
      { verdicts: ['timeout'], causes: ['nothing'], since: 'nothing happens' },
      { events: [], limitS: 300 },
    );
    add('is called by switch', {}, home('the switch asks for it'), {
      events: [{ atS: 120, do: 'return-switch-on' }],
    });
    add('has its link back and is called by switch', {}, home('the link comes back'), {
      events: [
        { atS: 90, do: 'link-lost' },
        { atS: 130, do: 'link-back' },
        { atS: 200, do: 'return-switch-on' },
      ],
    });
    add(
      'has no switch for arming',
      { 'arm.channel': 0 },
      { verdicts: ['not-flown'], causes: ['arming'], since: 'nothing arms it' },
    );
    add(
      'listens at the wrong speed',
      { 'gnss.baud': '9600' },
      { verdicts: ['not-flown'], causes: ['arming'], since: 'no fix, no arming' },
    );
    if (!rotors) {
      add(
        'lands',
        { 'return.arrival': 'land', 'return.height': 110 },
        {
          verdicts: ['home', 'bad-landing'],
          causes: ['setting', 'wind'],
          since: 'a light wind; a landing may be hard',
        },
      );
      add('circles up there', { 'return.arrival': 'circle', 'return.height': 110 }, home('a calm day'));
    } else {
      add(
        'stays in the air',
        { 'return.arrival': 'circle-low', 'return.height': 80 },
        {
          verdicts: ['home', 'energy'],
          causes: ['power'],
          since: 'hovers as long as its battery lets it',
        },
      );
      add(
        'is not disarmed by itself',
        { 'land.disarm': 0 },
        {
          verdicts: ['bad-landing'],
          causes: ['setting'],
          since: 'nobody disarms it',
        },
      );
      add(
        'has no compass',
        { 'compass.fitted': false },
        {
          verdicts: ['elsewhere', 'bad-landing', 'not-flown'],
          causes: ['estimate', 'setting', 'arming'],
          since: 'no heading',
        },
      );
    }
  }
  return out;
}

/** The flights whose verdicts were false once, with their craft as the table beside them has it. */
export function knownCases(seeds = 8): AuditFlight[] {
  const craft = (name: string) => flock.find((a) => short(a) === name)!;
  const out: AuditFlight[] = [];
  const add = (file: string, name: string, a: Airframe, expect: Expectation, setting: Setting = {}) => {
    const raw = JSON.parse(readFileSync(new URL(`./cases/${file}.json`, import.meta.url), 'utf8'));
    for (let k = 0; k < seeds; k++)
      out.push(
        flightOf(
          'cases',
          `${name}, seed ${raw.seed + k}`,
          a,
          { ...raw, seed: raw.seed + k },
          expect,
          setting,
        ),
      );
  };
  const t = craft('turnstone');
  const q = craft('avocet');
  add('blown', 'blown', craft('dunlin'), {
    verdicts: ['home', 'no-progress', 'energy'],
    causes: ['wind'],
    since: 'at 60 m the wind is below its return speed, higher up it is not',
  });
  add('hill', 'hill', t, {
    verdicts: ['home', 'terrain'],
    causes: ['ground'],
    since: 'the ground beside home is higher than its low circle: hit, or seen and flown over',
  });
  const heavy = { ...t, massKg: 2.5 * t.massKg };
  add('plain', 'plain at 2.5 times its mass', heavy, {
    verdicts: ['not-flown'],
    causes: ['launch'],
    since: 'the throw would need 914 J',
  });
  add('gust', 'gust', craft('ruff'), { verdicts: ['home'], causes: [], since: 'lands, and its motors stop' });
  add('noisy', 'noisy', q, {
    verdicts: ['home', 'bad-landing'],
    causes: ['device'],
    since: 'the position wanders by metres',
  });
  const weak = { ...q, battery: { ...q.battery, cellResistanceOhm: 0.2 } };
  add(
    'avocet600',
    'avocet600',
    q,
    { verdicts: ['not-flown', 'energy'], causes: ['power'], since: '1.2 ohm give at most 130 W' },
    { airframe: weak },
  );
  add('w14', 'w14', q, { verdicts: ['home'], causes: [], since: 'the wind is below what its tilt gives' });
  add('gyro-dead', 'gyro-dead', q, noAttitude);
  add('stuck', 'stuck', t, device(['astray'], 'it believes to stand still'));
  add('gnssdead', 'gnssdead', t, noPlace);
  add(
    'plain',
    'plain, gives up after a minute',
    t,
    { verdicts: ['elsewhere'], causes: ['setting'], since: 'so it is set' },
    { values: { 'return.timeout': 60 } },
  );
  add(
    'plain',
    'plain, twenty satellites',
    t,
    { verdicts: ['elsewhere'], causes: ['setting'], since: 'so it is set' },
    { values: { 'return.satellites': 20 } },
  );
  const land = { values: { 'return.arrival': 'land' } };
  add(
    'land10',
    'land10',
    t,
    { verdicts: ['home', 'bad-landing'], causes: ['wind'], since: 'a landing in 10 m/s may be hard' },
    land,
  );
  add(
    'land7',
    'land7',
    t,
    { verdicts: ['home', 'bad-landing'], causes: ['wind'], since: 'a landing in 7 m/s may be hard' },
    land,
  );
  add('slope', 'slope', t, { verdicts: ['terrain'], causes: ['pilot'], since: 'thrown at a hillside' });
  return out;
}

/** All of them but the known cases, which have their own count. */
export function auditFlights(): AuditFlight[] {
  return [
    ...inWinds(),
    ...nearTheLimit(),
    ...anyOnes(),
    ...faults(),
    ...wiring(),
    ...balances(),
    ...rotorBalances(),
    ...masses(),
    ...batteries(),
    ...terrains(),
    ...settings(),
  ];
}
