import { actuatorNames } from '#core/airframe/actuators.ts';
import { type Launch, LEAST_SHARE } from '#core/airframe/launch.ts';
import { hoverOf } from '#core/airframe/performance.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import type { Cause } from '#core/formats/rehearsalResult.ts';
import { deviceNames, type FaultDevice, type FaultKind } from '#core/formats/scenario.ts';
import { DEG } from '#core/math/scalar.ts';
import { formatDuration } from '#core/units/units.ts';
import type { NoReturn } from '#firmware/flightController.ts';
import type { Pilot } from '#firmware/modeChoice.ts';
import type { FlyingCraft } from '../flyingCraft.ts';
import type { Evidence } from './evidence.ts';
import type { Mistake } from './mistakes.ts';

/** What went wrong first, with the moment and the settings that would have changed it. */
export interface Why {
  readonly cause: Cause;
  readonly atS: number;
  readonly text: string;
  readonly settings: readonly string[];
}

/** All that a reason may rest on. */
export interface Scene {
  readonly craft: FlyingCraft;
  readonly evidence: Evidence;
  /** Above sea level, and from home now, m. */
  readonly homeHeight: number;
  readonly distance: number;
  readonly mistakes: readonly Mistake[];
  readonly launch: Launch | null;
  /** Airspeed with which it was let go, m/s. */
  readonly thrownMps: number;
  readonly windAt10: number;
  /** Who flew it: at the touch of the ground where there was one, now otherwise. */
  readonly pilot: Pilot;
}

interface Candidate extends Why {
  /** How surely this alone brings a craft to such an end, 0 to 1. */
  readonly sure: number;
}

const faultWords: Readonly<Record<Exclude<FaultKind, 'none'>, string>> = {
  dead: 'fell silent',
  stuck: 'went on saying the same',
  noisy: 'became noisy',
  slow: 'became slow',
  intermittent: 'cut out again and again',
  jammed: 'was jammed',
};

/** What is not a chip or a sensor fails in words of its own. */
const partWords: Readonly<Partial<Record<FaultDevice, string>>> = {
  motor: 'stopped',
  surface: 'stuck where it stood',
  lead: 'lost its contact again and again',
  cell: 'collapsed',
  receiver: 'went on with its last values',
};
/** Those that take away lift, power or an axis. */
const PARTS = ['motor', 'surface', 'cell', 'lead'] as const;

/** A part that had failed, if one had. */
export function brokenPart({ evidence: e }: Scene, endS: number): Why | null {
  for (const device of PARTS) {
    const f = e.faultOf(device, endS);
    if (f)
      return {
        cause: 'device',
        atS: f.atS,
        text: `${deviceText(device, f.kind, f.atS)}.`,
        settings: [],
      };
  }
  return null;
}

export const clock = (seconds: number) => formatDuration(Math.max(0, seconds));

/** A device that had failed, said with its moment. */
function deviceText(device: FaultDevice, kind: FaultKind, atS: number): string {
  const what = partWords[device] ?? faultWords[kind as Exclude<FaultKind, 'none'>];
  return `The ${deviceNames[device]} ${what} at ${clock(atS)}`;
}

/** Flies with its mistake for longer than this, it was not that mistake alone, s. */
const MISTAKE_SHOWS_S = 90;

/** So long before the wing broke, the upset came first, s. */
const UPSET_BEFORE_S = 0.5;

/** What made a craft lose its attitude, its wing or its lift. */
export function whyUpset(scene: Scene, endS: number): Why {
  const { evidence: e, mistakes, craft } = scene;
  const found: Candidate[] = [];
  const add = (sure: number, cause: Cause, atS: number, text: string, settings: readonly string[] = []) => {
    if (atS <= endS + 1) found.push({ sure, cause, atS, text, settings });
  };
  const firstS = Math.min(e.upset.atS, e.stalled.atS, endS);
  const gyro = e.faultOf('gyro', endS);
  if (gyro && endS - gyro.atS < 120)
    add(
      1,
      'device',
      gyro.atS,
      `${deviceText('gyro', gyro.kind, gyro.atS)}; without it no board holds an attitude.`,
    );
  const part = brokenPart(scene, endS);
  if (part && endS - part.atS < 300) add(0.99, part.cause, part.atS, part.text);
  for (const m of mistakes)
    add(
      firstS < MISTAKE_SHOWS_S || m.cause === 'balance' ? m.weight : 0.5 * m.weight,
      m.cause,
      firstS,
      m.text,
      m.settings,
    );
  if (e.burnt.happened) {
    const unit = craft.plant.motors[e.burnt.value]!;
    add(
      0.98,
      'power',
      e.burnt.atS,
      `The ${actuatorNames[unit.motor.id]} burnt at ${clock(e.burnt.atS)}: its propeller asks for more than the ${unit.maxCurrentA.toFixed(0)} A that it carries.`,
    );
  }
  const air = e.faultOf('airspeed', endS);
  if (air && e.airspeedOff.happened && e.airspeedOff.atS >= air.atS - 1)
    add(
      0.97,
      'device',
      air.atS,
      `${deviceText('airspeed', air.kind, air.atS)}: the board believed ${percent(e.airspeedOff.value)} of airspeed.`,
      ['pitot.fitted'],
    );
  const misled = misledBy(scene, endS);
  if (misled) add(0.93, misled.cause, misled.atS, misled.text);
  if (scene.pilot === 'nothing')
    add(
      0.95,
      'setting',
      firstS,
      'With the link lost the board left surfaces and motors as they were, as the settings ask: nothing held its attitude any more.',
      ['lost.action'],
    );
  // A wing that breaks in an upset broke because of it.
  if (e.broken.happened)
    add(
      e.upset.atS < e.broken.atS - UPSET_BEFORE_S ? 0.6 : 0.96,
      'structure',
      e.broken.atS,
      `The wing broke at ${clock(e.broken.atS)} under ${e.loadG.toFixed(1)} g at ${e.broken.value.toFixed(0)} m/s.`,
      ['level.bank', 'rate.pitch.max'],
    );
  const least = LEAST_SHARE * e.stall;
  if (scene.launch && scene.thrownMps < least && endS < 25 && !e.climbed)
    add(scene.thrownMps < e.stall ? 0.97 : 0.6, 'launch', 0, launchText(scene));
  if (e.sagged.happened) add(0.9, 'power', e.sagged.atS, sagText(scene));
  if (e.attitudeOff.happened && e.attitudeOff.atS < firstS + 0.5)
    add(
      0.85,
      'estimate',
      e.attitudeOff.atS,
      `From ${clock(e.attitudeOff.atS)} the board believed an attitude ${Math.round(e.attitudeOff.value / DEG)}° from the true one.`,
    );
  if (e.swinging.happened && e.swinging.atS < firstS + 1)
    add(
      0.7,
      'gains',
      e.swinging.atS,
      `It began to swing at ${clock(e.swinging.atS)}, faster and wider than the loops can hold: the gains are too high for this craft.`,
      ['rate.roll.p', 'rate.pitch.p', 'level.time'],
    );
  if (e.weak.happened) add(0.62, 'power', e.weak.atS, weakText(scene));
  const gusty = scene.windAt10 > 0.5 * (e.rotors ? hoverOf(e.airframe).topSpeedMps(0.6) : 1.8 * e.stall);
  if (gusty)
    add(
      0.55,
      'wind',
      firstS,
      `The wind of ${scene.windAt10.toFixed(0)} m/s at 10 m and its gusts were more than it could hold.`,
    );
  if (e.stalled.happened && e.stalled.atS < e.upset.atS + 1)
    add(
      0.5,
      'setting',
      e.stalled.atS,
      `It flew slower than it can: ${e.stalled.value.toFixed(1)} m/s at ${clock(e.stalled.atS)}, where it stalls at ${e.stall.toFixed(1)} m/s.`,
      ['nav.speedFloor', 'nav.speed'],
    );
  add(
    0.2,
    'gains',
    firstS,
    'Nothing else failed: settings and loops do not hold this craft. Look at the gains and at every surface and motor.',
    ['rate.roll.p', 'rate.pitch.p'],
  );
  return found.reduce((best, c) =>
    c.sure > best.sure || (c.sure === best.sure && c.atS < best.atS) ? c : best,
  );
}

/** A device that had failed and that the board went by, where it shows in what the board believed. */
function misledBy(scene: Scene, endS: number): Why | null {
  const { evidence: e } = scene;
  for (const device of ['gnss', 'barometer', 'compass'] as const) {
    const f = e.faultOf(device, endS);
    if (!f) continue;
    const shown =
      device === 'gnss'
        ? e.attitudeOff.happened || e.positionOff.happened
        : device === 'barometer'
          ? e.heightOff.happened
          : e.rotors && (e.attitudeOff.happened || e.positionOff.happened);
    if (shown)
      return {
        cause: 'device',
        atS: f.atS,
        text: `${deviceText(device, f.kind, f.atS)}, and the board went by it.`,
        settings: [],
      };
  }
  return null;
}

export function launchText(scene: Scene): string {
  const { launch, evidence: e, thrownMps } = scene;
  const kg = e.airframe.massKg.toFixed(1);
  const how = { hand: 'An arm', bungee: 'The bungee', catapult: 'The catapult' }[
    e.airframe.launch as 'hand' | 'bungee' | 'catapult'
  ];
  return `${how} gives ${kg} kg no more than ${launch!.mostMps.toFixed(1)} m/s, ${thrownMps.toFixed(1)} m/s through the air; it stalls at ${e.stall.toFixed(1)} m/s. The throw would need ${launch!.wantedJ.toFixed(0)} J: take another launch, or make it lighter.`;
}

function sagText(scene: Scene): string {
  const { evidence: e, craft } = scene;
  const b = craft.plant.battery;
  const open = b.openV.toFixed(1);
  return `From ${clock(e.sagged.atS)} the pack's resistance of ${(1000 * b.resistanceOhm).toFixed(0)} mΩ took ${Math.round(100 * (1 - e.sagged.value))} % of its ${open} V: it cannot give the power that the craft needs.`;
}

function weakText(scene: Scene): string {
  const e = scene.evidence;
  return `From ${clock(e.weak.atS)} it sank at ${Math.abs(e.weak.value).toFixed(1)} m/s under full throttle: the motors cannot carry it.`;
}

/** Power that was not there, if that is what brought it down. */
export function whyWeak(scene: Scene, endS: number): Why | null {
  const { evidence: e, craft } = scene;
  if (e.burnt.happened) return whyUpset(scene, endS);
  const part = brokenPart(scene, endS);
  if (part && (e.sagged.happened || e.weak.happened)) return part;
  if (e.sagged.happened) return { cause: 'power', atS: e.sagged.atS, text: sagText(scene), settings: [] };
  const limited = e.limited.happened && craft.plant.motors.some((m) => m.limited);
  if (e.weak.happened && endS - e.weak.atS > 3 && (limited || craft.plant.velocity[2]! > 0.3)) {
    // A board that is misled asks for what no motors carry: that came first.
    const misled = misledBy(scene, e.weak.atS);
    if (misled) return misled;
    return { cause: 'power', atS: e.weak.atS, text: weakText(scene), settings: [] };
  }
  return null;
}

/** Why the board did not return although its settings ask for it. */
export function whyNoReturn(scene: Scene): Why {
  const { evidence: e, craft } = scene;
  const c = craft.pfad.controller;
  const atS = Math.min(e.noReturnAtS, 1e6);
  const gnss = e.faultOf('gnss', atS);
  const compass = e.faultOf('compass', atS);
  const withDevice = (device: FaultDevice, f: { atS: number; kind: FaultKind } | null, what: string) =>
    f ? `${deviceText(device, f.kind, f.atS)}; ${what}` : `${what.charAt(0).toUpperCase()}${what.slice(1)}`;
  const reasons: Readonly<Record<NoReturn, () => Why>> = {
    'no-home': () => ({
      cause: 'setting',
      atS,
      text: 'The board had no home to return to: none was stored at arming.',
      settings: ['arm.needFix', 'arm.satellites'],
    }),
    'position-lost': () => ({
      cause: gnss ? 'device' : 'estimate',
      atS: gnss?.atS ?? e.positionLostS,
      text: withDevice(
        'gnss',
        gnss,
        `the board lost its position ${Number.isFinite(e.positionLostS) ? `at ${clock(e.positionLostS)}, ` : ''}after ${c.config.position.blindFor} s without a fix.`,
      ),
      settings: ['lost.blind'],
    }),
    'no-heading': () => ({
      cause: compass ? 'device' : 'estimate',
      atS: compass?.atS ?? atS,
      text: withDevice('compass', compass, 'the board had no heading to fly home by.'),
      settings: ['compass.fitted'],
    }),
    'few-satellites': () => ({
      cause: gnss ? 'device' : 'setting',
      atS: gnss?.atS ?? atS,
      text: withDevice(
        'gnss',
        gnss,
        `the board used ${c.satellitesUsed} satellites, and its settings ask for ${c.config.returnSatellites} to return.`,
      ),
      settings: ['return.satellites', 'return.fewFor'],
    }),
    'gave-up': () => ({
      cause: 'setting',
      atS,
      text: `The board gave up the way home after ${clock(c.config.giveUp)}, as its settings ask.`,
      settings: ['return.timeout'],
    }),
  };
  return reasons[e.noReturn ?? c.noReturn() ?? 'no-home']();
}

/** Speed that the craft makes through the air on its way home, m/s. */
export function homewardSpeed(scene: Scene): number {
  const { craft, evidence: e } = scene;
  const c = craft.pfad.controller.config;
  return e.rotors
    ? hoverOf(e.airframe).topSpeedMps(Math.min(1.3 * c.hover.tilt, 1.05))
    : c.returnSpeed + c.faster;
}

/** Mean wind where the craft is, m/s. */
export function windHere(scene: Scene): number {
  return windAtHeight(scene.windAt10, Math.max(10, scene.craft.aboveGround));
}

export function windText(scene: Scene): string {
  const { craft, evidence: e } = scene;
  const above = Math.max(10, craft.aboveGround).toFixed(0);
  const speed = homewardSpeed(scene).toFixed(0);
  const wind = windHere(scene).toFixed(0);
  return e.rotors
    ? `The wind is too strong for its tilt: it blows at ${wind} m/s at ${above} m above ground, and the tilt limit gives ${speed} m/s through the air.`
    : `The wind is too strong for the return speed: it blows at ${wind} m/s at ${above} m above ground, and the craft flies home at ${speed} m/s through the air at most.`;
}

/** Why a craft on its way home comes no nearer. */
export function whyHeldUp(scene: Scene, nowS: number): Why {
  const { craft, evidence: e } = scene;
  const c = craft.pfad.controller;
  const astray = whyAstray(scene, nowS);
  if (astray) return astray;
  const windy = Math.max(e.wind, windHere(scene)) > 0.8 * homewardSpeed(scene);
  if (windy) {
    const settings = e.rotors ? ['hover.tilt'] : ['return.speed', 'return.height'];
    return { cause: 'wind', atS: nowS, text: windText(scene), settings };
  }
  const weak = whyWeak(scene, nowS);
  if (weak) return weak;
  const upset = e.nearUpset(nowS, 60);
  if (upset) return whyUpset(scene, nowS);
  const mistake = [...scene.mistakes].sort((a, b) => b.weight - a.weight)[0];
  if (mistake) return { cause: mistake.cause, atS: 0, text: mistake.text, settings: mistake.settings };
  if (!e.rotors && e.wind > 0.5 * c.config.returnSpeed)
    return { cause: 'wind', atS: nowS, text: windText(scene), settings: ['return.speed', 'return.height'] };
  const device = anyFault(scene, nowS);
  if (device) return device;
  return {
    cause: 'setting',
    atS: nowS,
    text: `It flies at ${craft.plant.airspeed.toFixed(0)} m/s in a wind of ${e.wind.toFixed(0)} m/s and does not come nearer: its path does not lead home.`,
    settings: ['nav.period', 'loiter.radius', 'return.speed'],
  };
}

/** Devices that this kind of craft is flown by at all. */
function fliesBy(device: FaultDevice, rotors: boolean): boolean {
  if (device === 'voltage') return false;
  if (device === 'airspeed' || device === 'surface') return !rotors;
  return device === 'compass' ? rotors : true;
}

/** The last fault of a device that it flies by, as the least that can be said. */
export function anyFault(scene: Scene, nowS: number): Why | null {
  const { evidence: e } = scene;
  const last = e.faults
    .filter(
      (f) => f.kind !== 'none' && f.atS <= nowS && fliesBy(f.device, e.rotors) && e.faultOf(f.device, nowS),
    )
    .at(-1);
  if (!last) return null;
  return {
    cause: 'device',
    atS: last.atS,
    text: `${deviceText(last.device, last.kind, last.atS)}.`,
    settings: [],
  };
}

/** The board believes to be somewhere else than it is. */
export function whyAstray(scene: Scene, nowS: number): Why | null {
  const { craft, evidence: e } = scene;
  if (!e.positionOff.happened) return null;
  const c = craft.pfad.controller;
  const p = craft.plant.position;
  const now = Math.hypot(
    c.position.north - c.home.homeNorth - p[0]!,
    c.position.east - c.home.homeEast - p[1]!,
  );
  if (now < 50) return null;
  const gnss = e.faultOf('gnss', nowS);
  const metres = now >= 1000 ? `${(now / 1000).toFixed(1)} km` : `${now.toFixed(0)} m`;
  const belief = `the board believes itself ${metres} from where it is`;
  return gnss
    ? {
        cause: 'device',
        atS: gnss.atS,
        text: `${deviceText('gnss', gnss.kind, gnss.atS)}: ${belief}.`,
        settings: [],
      }
    : {
        cause: 'estimate',
        atS: e.positionOff.atS,
        text: `From ${clock(e.positionOff.atS)} ${belief}.`,
        settings: ['lost.blind'],
      };
}

function percent(share: number): string {
  return share > 0 ? `${Math.round(100 * share)} % too much` : `${Math.round(-100 * share)} % too little`;
}
