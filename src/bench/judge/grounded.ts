import { pitchOf, rollOf } from '#core/math/quaternion.ts';
import { DEG } from '#core/math/scalar.ts';
import { formatDuration } from '#core/units/units.ts';
import { because, charge, fine, type Judgement, kilometres } from './judgement.ts';
import {
  anyFault,
  brokenPart,
  clock,
  homewardSpeed,
  launchText,
  type Scene,
  type Why,
  whyAstray,
  whyNoReturn,
  whyUpset,
  whyWeak,
  windHere,
  windText,
} from './reasons.ts';
import type { TouchState } from './touchdown.ts';

/** Ends on the ground: a craft that never left it, one that touched down as it was meant to, one that hit it. */

/** Hit the ground within this after an upset or a stall, that is why, s. */
const AFTER_UPSET_S = 12;
const WILD_ROLL = 62 * DEG;
const WILD_DIVE = -32 * DEG;
const LANDED_WITHIN_M = 120;
/** Right after the launch, s. */
const SOON_AFTER_S = 8;

/** It stands where it stood. */
export function never(scene: Scene, seconds: number): Judgement {
  const what = 'It never left the ground.';
  const { evidence: e } = scene;
  const mistake = [...scene.mistakes].sort((a, b) => b.weight - a.weight)[0];
  const weak = whyWeak(scene, seconds);
  if (weak && !(mistake && mistake.weight > 0.75)) return because('not-flown', what, weak);
  if (mistake)
    return because('not-flown', what, {
      cause: mistake.cause,
      atS: 0,
      text: mistake.text,
      settings: mistake.settings,
    });
  if (e.limited.happened)
    return because('not-flown', what, {
      cause: 'power',
      atS: e.limited.atS,
      text: 'Its motor controllers hold the current down: the propellers ask for more than they carry.',
      settings: [],
    });
  return because('not-flown', what, {
    cause: 'power',
    atS: seconds,
    text: 'Full throttle does not lift it. Look at motors, propellers and take-off.',
    settings: ['motor.max'],
  });
}

/** A landing that was meant, however it went. */
export function ended(scene: Scene, state: TouchState, seconds: number): Judgement {
  const { distance } = scene;
  const away = scene.pilot === 'glide' || scene.pilot === 'cut' || distance > LANDED_WITHIN_M;
  const came = cameDown(scene, seconds);
  if (state.kind === 'stands') {
    if (distance < LANDED_WITHIN_M && !came)
      return fine(
        'home',
        `Landed ${kilometres(distance)} from home ${formatDuration(seconds)} after launch, upright, motors stopped and disarmed, with ${charge(scene.craft)} % of the battery left.`,
      );
    if (came) return came;
    const astray = whyAstray(scene, seconds) ?? anyFault(scene, seconds) ?? landingWhy(scene, seconds);
    return because('elsewhere', `It landed ${kilometres(distance)} from home.`, astray);
  }
  if (came && away) return came;
  const where = `${kilometres(distance)} from home, ${clock(seconds)} after launch`;
  const what =
    state.kind === 'hard'
      ? `It touched down ${state.how}, ${where}.`
      : state.kind === 'tipped'
        ? `It tipped over after it had touched down, ${where}.`
        : state.kind === 'runs-on' && state.motors
          ? `It touched down ${where}, and its motors went on turning.`
          : `It touched down ${where}, and the board stayed armed.`;
  return because('bad-landing', what, landingWhy(scene, seconds, state.kind === 'runs-on'));
}

/** What spoilt a landing. */
export function landingWhy(scene: Scene, seconds: number, ranOn = false): Why {
  const { craft } = scene;
  const c = craft.pfad.controller;
  if (ranOn && c.config.land.disarm === 0)
    return {
      cause: 'setting',
      atS: seconds,
      text: 'The settings leave disarming after a landing to the pilot.',
      settings: ['land.disarm'],
    };
  const device = anyFault(scene, seconds);
  if (device) return device;
  const wind = windHere(scene);
  const usual = scene.evidence.rotors ? 0.5 * homewardSpeed(scene) : 0.55 * scene.evidence.stall;
  if (wind > usual)
    return {
      cause: 'wind',
      atS: seconds,
      text: `It came down in a wind of ${scene.windAt10.toFixed(0)} m/s at 10 m${craft.field.wind.gustMps > 0 ? ` with gusts of ${craft.field.wind.gustMps.toFixed(0)} m/s` : ''}.`,
      settings: ['return.arrival'],
    };
  const upset = scene.evidence.attitudeOff;
  if (upset.happened)
    return {
      cause: 'estimate',
      atS: upset.atS,
      text: `The attitude the board believed was ${Math.round(upset.value / DEG)}° off at ${clock(upset.atS)}.`,
      settings: [],
    };
  const mistake = scene.mistakes[0];
  if (mistake) return { cause: mistake.cause, atS: 0, text: mistake.text, settings: mistake.settings };
  return {
    cause: 'setting',
    atS: seconds,
    text: scene.evidence.rotors
      ? 'It sinks faster than it bears.'
      : `Approach and flare do not take enough of its sink.${craft.field.wind.gustMps > 0 ? ` Gusts of ${craft.field.wind.gustMps.toFixed(1)} m/s do the rest.` : ''}`,
    settings: scene.evidence.rotors ? ['hover.land'] : ['land.flare', 'land.pitch', 'land.speed'],
  };
}

/** It came down where the board chose to, away from home. Null where it was not that. */
function cameDown(scene: Scene, seconds: number): Judgement | null {
  const { pilot, evidence: e } = scene;
  const { lostAction } = scene.craft.pfad.controller.config;
  if (pilot === 'return' || (pilot !== 'cut' && pilot !== 'glide' && !e.noReturn)) return null;
  const how =
    pilot === 'cut'
      ? 'stopped the motors, and the craft fell'
      : e.rotors
        ? 'brought it down'
        : 'glided it down';
  const what = `With the link lost the board ${how} ${kilometres(scene.distance)} from home, ${clock(seconds)} after launch.`;
  if (lostAction === pilot)
    return because('elsewhere', what, {
      cause: 'setting',
      atS: seconds,
      text: 'So the settings ask.',
      settings: ['lost.action'],
    });
  return e.noReturn ? because('elsewhere', what, whyNoReturn(scene)) : null;
}

/** The ground came where none was wanted. */
export function crash(scene: Scene, seconds: number): Judgement {
  const { craft } = scene;
  const { plant, ground } = craft;
  const c = craft.pfad.controller;
  const { evidence: e } = scene;
  const where = `${kilometres(scene.distance)} from home, ${clock(seconds)} after launch`;
  const surface = ground > 0.5 ? `the ground at ${ground.toFixed(0)} m above the sea` : 'the sea';
  const thrownShort = scene.launch !== null && scene.thrownMps < e.stall;
  if (thrownShort && !e.climbed && seconds < 25)
    return because('not-flown', 'It fell to the ground from the launch.', {
      cause: 'launch',
      atS: 0,
      text: launchText(scene),
      settings: [],
    });
  if (c.pilot === 'cut' || (c.pilot === 'glide' && !e.nearUpset(seconds, AFTER_UPSET_S))) {
    const came = cameDown(scene, seconds);
    if (came) return came;
  }
  // What was upset before the nose pointed at the ground counts; a stall of the last second is part of the impact.
  const upset = e.nearUpset(seconds, AFTER_UPSET_S) || e.upsetFor > 0.3;
  const rising = risingGround(scene);
  const weak = whyWeak(scene, seconds);
  if (!e.climbed && seconds < 40 && weak && !upset && !rising)
    return because('not-flown', `It did not climb away and came down ${where}.`, weak);
  const stalledOnly = upset && e.upsetFor < 0.3 && e.lastUpsetS < seconds - AFTER_UPSET_S;
  const young = !e.climbed && seconds < 20 && !rising;
  if ((upset && !(stalledOnly && rising)) || wild(scene) || young) {
    const how = stalledOnly
      ? 'It stalled'
      : scene.evidence.rotors
        ? 'It tumbled'
        : 'It did not hold its attitude';
    const first = e.climbed
      ? ''
      : seconds < SOON_AFTER_S
        ? ' right after the launch'
        : ' before it had climbed away';
    return because('lost-control', `${how}${first} and hit ${surface}, ${where}.`, whyUpset(scene, seconds));
  }
  const height = (plant.height - scene.homeHeight).toFixed(0);
  const what =
    `It flew into ${surface}, ${where}, ${height} m ${Number(height) < 0 ? 'under' : 'above'} home.`.replace(
      '-',
      '',
    );
  if (weak && !rising) return because('energy', what, weak);
  return because('terrain', what, whyGround(scene, seconds));
}

/** Banked or diving as nobody asks for. */
function wild(scene: Scene): boolean {
  const q = scene.craft.plant.attitude;
  return Math.abs(rollOf(q)) > WILD_ROLL || pitchOf(q) < WILD_DIVE;
}

/** The ground ahead rises above the craft: from the launch, or on the way. */
function risingGround(scene: Scene): boolean {
  const { craft, homeHeight } = scene;
  return craft.ground > homeHeight + 8;
}

function whyGround(scene: Scene, seconds: number): Why {
  const { craft, homeHeight } = scene;
  const c = craft.pfad.controller;
  const { evidence: e } = scene;
  const { ground } = craft;
  const part = brokenPart(scene, seconds);
  if (part) return part;
  const off = Math.round(ground - homeHeight);
  const standing = `that stands ${Math.abs(off)} m ${off < 0 ? 'below' : 'above'} home`;
  const height = e.faultOf('barometer', seconds);
  if (e.heightOff.happened) {
    const by = Math.abs(e.heightOff.value).toFixed(0);
    const text = `The board believed itself ${by} m ${e.heightOff.value > 0 ? 'higher' : 'lower'} than it was.`;
    return height
      ? {
          cause: 'device',
          atS: height.atS,
          text: `The barometer failed at ${clock(height.atS)} (${height.kind}). ${text}`,
          settings: [],
        }
      : { cause: 'estimate', atS: e.heightOff.atS, text, settings: [] };
  }
  const astray = whyAstray(scene, seconds);
  if (astray) return astray;
  // Faster than the craft, the wind took it there.
  if (Math.max(e.wind, windHere(scene)) > 0.9 * homewardSpeed(scene))
    return {
      cause: 'wind',
      atS: seconds,
      text: `${windText(scene)} It was carried there.`,
      settings: scene.evidence.rotors ? ['hover.tilt'] : ['return.speed'],
    };
  if (c.lost.state === 'fine' && c.pilot === 'sticks') {
    const text = e.climbed
      ? `The pilot flew it into ground ${standing} on the way out.`
      : `The pilot launched it against the wind towards ground that rises ${(ground - homeHeight).toFixed(0)} m above home within ${kilometres(scene.distance)}.`;
    return { cause: 'pilot', atS: seconds, text, settings: [] };
  }
  if (c.pilot === 'nothing')
    return {
      cause: 'setting',
      atS: seconds,
      text: 'With the link lost the board left surfaces and motors as they were, as the settings ask.',
      settings: ['lost.action'],
    };
  if (c.pilot === 'guard' || c.pilot === 'hold')
    return {
      cause: 'setting',
      atS: seconds,
      text: `It flew straight on while the board waited for the link, towards ground ${standing}.`,
      settings: ['lost.guard'],
    };
  if (c.pilot === 'return') {
    const circling = c.home.phase === 'circling' || c.home.phase === 'gate' || c.home.phase === 'final';
    const goal = c.home.goal.height - homeHeight;
    if (scene.evidence.rotors ? false : scene.windAt10 > 0.55 * homewardSpeed(scene) && !risingGround(scene))
      return { cause: 'wind', atS: seconds, text: windText(scene), settings: ['return.speed'] };
    if (circling)
      return {
        cause: 'ground',
        atS: seconds,
        text: `Its circle at ${goal.toFixed(0)} m above home leads into ground ${standing}.`,
        settings: ['return.arrivalHeight', 'loiter.radius'],
      };
    if (c.home.phase === 'climbing')
      return {
        cause: 'ground',
        atS: seconds,
        text: `It climbed in a circle beside ground ${standing}.`,
        settings: ['return.climb', 'loiter.radius'],
      };
    return {
      cause: 'ground',
      atS: seconds,
      text: `The way home is flown at ${goal.toFixed(0)} m above home; it meets ground ${standing}.`,
      settings: ['return.height', 'return.above', 'return.climb'],
    };
  }
  return (
    anyFault(scene, seconds) ?? {
      cause: 'ground',
      atS: seconds,
      text: `It met ground ${standing}.`,
      settings: [],
    }
  );
}
