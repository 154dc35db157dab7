import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { openCircuitV } from '../flight/battery.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { Servo } from '../flight/servo.ts';
import { DEG, GRAVITY } from '../math/scalar.ts';
import { actuatorNames } from './actuators.ts';
import { type Airframe, isRotorcraft } from './airframe.ts';
import { LEAST_SHARE, launchOf, launchSuffices, launchThatSuffices, launchWords } from './launch.ts';
import {
  hoverOf,
  motorLag,
  precessionRate,
  rotorBalance,
  stallSpeed,
  thrustAt,
  trimLevel,
} from './performance.ts';

/** Something about a craft that no settings can mend. */
export interface Unfit {
  readonly id: string;
  /** It cannot fly so, or it flies badly. */
  readonly grade: 'cannot' | 'badly';
  readonly title: string;
  readonly why: string;
}

/** Full throttle may ask for this share of a controller's current, and a hover for this. */
const CURRENT_MOST = 1.25;
const HOVER_CURRENT_MOST = 0.75;
/** Of the rested voltage that full throttle, and a hover, may take. */
const SAG_MOST = 0.35;
const HOVER_SAG_MOST = 0.2;
/** A wing climbs at cruise by at least this under full throttle, m/s. */
const CLIMB_LEAST = 0.8;
const CRUISE_SHARE = 1.8;
/** Thrust over weight of rotors. */
const LIFT_LEAST = 1.5;
/** Weight over the area of all discs, N/m^2: small discs ask for more power than packs of their size give. */
const DISC_MOST = 400;
/** Rotors answer a change of duty within this, s. */
const LAG_MOST_S = 0.08;
/** Precession of the rotors' momentum within the motors' lag, rad. */
const PRECESSION_MOST = 0.4;
/** What the hardest working rotor of a hover may push over the mean. */
const UNLIKE_MOST = 1.1;
const UNLIKE_CANNOT = 1.5;
/** A servo crosses half its travel within this, s. */
const SERVO_SLOW_S = 0.3;

const known = new WeakMap<Airframe, readonly Unfit[]>();

/** What keeps a craft from flying well whatever its settings: thrust, current, pack, launch, discs, servos. */
export function unfitness(airframe: Airframe): readonly Unfit[] {
  const before = known.get(airframe);
  if (before) return before;
  const found = [
    ...currents(airframe),
    ...(isRotorcraft(airframe) ? rotorLimits(airframe) : wingLimits(airframe)),
    ...slowServos(airframe),
    ...collisions(airframe),
  ];
  known.set(airframe, found);
  return found;
}

/** Current through each winding at a duty and the rested voltage of a pack half full, standing, without the controller's limit. */
function windingCurrent(airframe: Airframe, index: number, duty: number): number {
  const m = airframe.motors[index]!;
  const b = airframe.battery;
  const unit = new MotorUnit(m);
  unit.maxCurrentA = Number.POSITIVE_INFINITY;
  unit.settle(duty, b.cells * openCircuitV(b.chemistry, 0.7), 0, SEA_LEVEL_DENSITY);
  return unit.windingA;
}

function currents(airframe: Airframe): Unfit[] {
  const b = airframe.battery;
  const out: Unfit[] = [];
  let all = 0;
  for (const [i, m] of airframe.motors.entries()) {
    const full = windingCurrent(airframe, i, 1);
    all += Math.min(full, m.maxCurrentA);
    if (full > CURRENT_MOST * m.maxCurrentA && !out.some((u) => u.id === 'propeller'))
      out.push({
        id: 'propeller',
        grade: full > 2 * m.maxCurrentA ? 'cannot' : 'badly',
        title: `The propeller asks more of the ${actuatorNames[m.id]} than it carries`,
        why: `At full throttle it would draw ${full.toFixed(0)} A; motor and controller carry ${m.maxCurrentA.toFixed(0)} A. A smaller or flatter propeller, fewer cells or a slower motor.`,
      });
  }
  const open = b.cells * openCircuitV(b.chemistry, 0.7);
  const sag = (all * b.cells * b.cellResistanceOhm) / open;
  if (sag > SAG_MOST)
    out.push({
      id: 'pack',
      grade: sag > 0.6 ? 'cannot' : 'badly',
      title: 'The battery cannot give what full throttle asks',
      why: `Its ${(1000 * b.cells * b.cellResistanceOhm).toFixed(0)} mΩ would take ${Math.round(100 * Math.min(sag, 1))} % of the voltage. A larger or fresher pack.`,
    });
  return out;
}

function wingLimits(airframe: Airframe): Unfit[] {
  const out: Unfit[] = [];
  const cruise = CRUISE_SHARE * stallSpeed(airframe);
  const trim = trimLevel(airframe, cruise);
  if (!trim) {
    out.push({
      id: 'trim',
      grade: 'cannot',
      title: 'It cannot be trimmed at its cruise speed',
      why: `At ${cruise.toFixed(1)} m/s the surfaces cannot hold the nose. Look at balance, incidences and throws.`,
    });
  } else if (airframe.motors.length > 0) {
    const thrust = thrustAt(airframe, 1, cruise).thrust;
    const climb = ((thrust - trim.thrust) * cruise) / (airframe.massKg * GRAVITY);
    if (climb < CLIMB_LEAST)
      out.push({
        id: 'thrust',
        grade: climb < 0 ? 'cannot' : 'badly',
        title: climb < 0 ? 'Full throttle does not hold it in the air' : 'It hardly climbs',
        why: `At ${cruise.toFixed(0)} m/s it needs ${trim.thrust.toFixed(1)} N and has ${thrust.toFixed(1)} N.`,
      });
  }
  const launch = launchOf(airframe);
  if (launch && !launchSuffices(airframe)) {
    const need = LEAST_SHARE * stallSpeed(airframe);
    out.push({
      id: 'launch',
      grade: 'cannot',
      title: `It is too ${airframe.massKg > 2.5 ? 'heavy' : 'fast'} to be ${launchWords[airframe.launch]}`,
      why: `It flies from ${need.toFixed(1)} m/s on; ${airframe.massKg.toFixed(1)} kg get ${launch.mostMps.toFixed(1)} m/s. Have it ${launchWords[launchThatSuffices(airframe)].replace('rolls', 'roll')}.`,
    });
  }
  return out;
}

function rotorLimits(airframe: Airframe): Unfit[] {
  const out: Unfit[] = [];
  const hover = hoverOf(airframe);
  const weight = airframe.massKg * GRAVITY;
  if (hover.thrustToWeight < LIFT_LEAST)
    out.push({
      id: 'thrust',
      grade: hover.thrustToWeight < 1.15 ? 'cannot' : 'badly',
      title: 'Its rotors hardly carry it',
      why: `Full throttle lifts ${hover.thrustToWeight.toFixed(2)} times its weight; at least ${LIFT_LEAST} times are needed to steer as well.`,
    });
  const unlike = rotorBalance(airframe).hardest;
  if (unlike > UNLIKE_MOST)
    out.push({
      id: 'balance',
      grade: unlike > UNLIKE_CANNOT || unlike > 0.8 * hover.thrustToWeight ? 'cannot' : 'badly',
      title: 'It is not in balance between its rotors',
      why: rotorBalanceWhy(airframe),
    });
  const discs = airframe.motors.reduce((sum, m) => sum + (Math.PI * m.propDiameterM ** 2) / 4, 0);
  if (weight / discs > DISC_MOST)
    out.push({
      id: 'discs',
      grade: 'badly',
      title: 'Its propellers are too small for its weight',
      why: `${(weight / discs).toFixed(0)} N on each square metre of disc; up to ${DISC_MOST} fly well.`,
    });
  const most = Math.max(
    ...airframe.motors.map(
      (_, i) => windingCurrent(airframe, i, hover.throttle) / airframe.motors[i]!.maxCurrentA,
    ),
  );
  if (most > HOVER_CURRENT_MOST && hover.thrustToWeight >= 1.15)
    out.push({
      id: 'hover-current',
      grade: most > 1 ? 'cannot' : 'badly',
      title: 'Hovering takes nearly all that its motors carry',
      why: `${Math.round(100 * most)} % of their greatest current, all the time.`,
    });
  const lag = motorLag(airframe, hover.throttle);
  if (lag > LAG_MOST_S)
    out.push({
      id: 'lag',
      grade: lag > 1.12 * LAG_MOST_S ? 'cannot' : 'badly',
      title: 'Its motors answer too slowly to hold it level',
      why: `They take ${Math.round(1000 * lag)} ms to two thirds of a change; ${Math.round(1000 * LAG_MOST_S)} ms are the most. Lighter propellers, or motors of less resistance.`,
    });
  const turns = precessionRate(airframe) * lag;
  if (turns > PRECESSION_MOST)
    out.push({
      id: 'momentum',
      grade: turns > 1.15 * PRECESSION_MOST ? 'cannot' : 'badly',
      title: 'The momentum of its rotors turns roll into pitch faster than it can answer',
      why: `Its rotors do not cancel each other: ${precessionRate(airframe).toFixed(1)} rad/s, and the motors answer in ${Math.round(1000 * lag)} ms. Lighter motors and propellers, or rotors that turn against each other.`,
    });
  const b = airframe.battery;
  const sag = (hover.currentA * b.cells * b.cellResistanceOhm) / (b.cells * openCircuitV(b.chemistry, 0.7));
  if (sag > HOVER_SAG_MOST)
    out.push({
      id: 'hover-pack',
      grade: sag > 0.45 ? 'cannot' : 'badly',
      title: 'The battery cannot carry a hover for long',
      why: `Hovering takes ${Math.round(100 * sag)} % of its voltage. A larger or fresher pack.`,
    });
  return out;
}

/** Where the balance lies, and what that asks of the rotors. */
export function rotorBalanceWhy(airframe: Airframe): string {
  const { behindM, rightM, hardest } = rotorBalance(airframe);
  const parts = [
    [behindM, behindM > 0 ? 'behind' : 'ahead of'],
    [rightM, rightM > 0 ? 'right of' : 'left of'],
  ] as const;
  const places = parts.flatMap(([by, way]) =>
    Math.abs(by) >= 0.0005 ? [`${Math.round(1000 * Math.abs(by))} mm ${way}`] : [],
  );
  return `The balance lies ${places.join(' and ')} the middle of the rotors: one has to push ${Math.round(100 * (hardest - 1))} % more than the mean, from the first moment on. Move weight.`;
}

function slowServos(airframe: Airframe): Unfit[] {
  for (const s of airframe.surfaces) {
    if (s.id.endsWith('flap')) continue;
    const servo = new Servo(s);
    servo.share = 1;
    let seconds = 0;
    while (servo.deflection < 0.5 * servo.throw && seconds < 2) {
      servo.step(0.005);
      seconds += 0.005;
    }
    if (seconds > SERVO_SLOW_S)
      return [
        {
          id: 'servo',
          grade: seconds > 2 * SERVO_SLOW_S ? 'cannot' : 'badly',
          title: `The servo of the ${actuatorNames[s.id]} is too slow`,
          why: `Half its throw takes ${seconds.toFixed(2)} s (${(servo.throw / DEG).toFixed(0)}° in all); the loops need it within ${SERVO_SLOW_S} s.`,
        },
      ];
  }
  return [];
}

/** Discs may come as near as this share of their diameter. */
const LEAST_GAP = 0.02;

const mm = (m: number) => `${Math.round(1000 * m)} mm`;

/** Parts that stand where another part is, as after a craft was scaled and one of them was left at its old place. */
function collisions(a: Airframe): Unfit[] {
  const found: Unfit[] = [];
  const cannot = (id: string, title: string, why: string) =>
    found.push({ id: `collide.${id}`, grade: 'cannot', title, why });
  for (const [i, m] of a.motors.entries()) {
    for (const n of a.motors.slice(i + 1)) {
      // Two on one arm, one above the other, have one axis.
      const sameAxis = Math.hypot(m.aftM - n.aftM, m.rightM - n.rightM) < 0.01;
      if (m.thrust !== n.thrust || sameAxis) continue;
      const apart =
        m.thrust === 'up'
          ? Math.hypot(m.aftM - n.aftM, m.rightM - n.rightM)
          : Math.abs(m.aftM - n.aftM) > 0.1
            ? Number.POSITIVE_INFINITY
            : Math.hypot(m.rightM - n.rightM, m.upM - n.upM);
      const need = (0.5 + LEAST_GAP / 2) * (m.propDiameterM + n.propDiameterM);
      if (apart < need)
        cannot(
          `${m.id}.${n.id}`,
          `The propellers of the ${actuatorNames[m.id]} and the ${actuatorNames[n.id]} overlap`,
          `Their axes are ${mm(apart)} apart and the propellers take ${mm(need)}. Smaller propellers, or motors further apart.`,
        );
    }
  }
  const wing = a.planforms.find((p) => p.id === 'wing');
  if (!wing) return found;
  const half = wing.rootRightM + wing.spanM / 2;
  for (const m of a.motors) {
    if (Math.abs(m.rightM) > half)
      cannot(
        `tip.${m.id}`,
        `The ${actuatorNames[m.id]} hangs beyond the wing tip`,
        `It stands ${mm(Math.abs(m.rightM))} from the middle and the wing ends at ${mm(half)}.`,
      );
  }
  for (const p of a.planforms) {
    const name = p.id === 'fin' && p.pair ? 'fins' : p.id;
    if (p.id !== 'wing' && p.rootRightM > half)
      cannot(
        `beyond.${p.id}`,
        `The ${name} stand beyond the wing tip`,
        `They stand ${mm(p.rootRightM)} from the middle and the wing ends at ${mm(half)}.`,
      );
    // What hangs on the body begins on it; fins on a wing are carried by that.
    const onWing = p.rootRightM > a.bodyWidthM;
    const rear = onWing
      ? Math.max(wing.rootAftM + wing.rootChordM, wing.tipAftM + wing.tipChordM)
      : a.lengthM;
    if (p.rootAftM > rear + 0.02)
      cannot(
        `off.${p.id}`,
        `The ${name} ${name === 'fins' ? 'hang' : 'hangs'} on nothing`,
        `It begins ${mm(p.rootAftM)} behind the nose, and ${onWing ? 'the wing' : 'the body'} ends at ${mm(rear)}.`,
      );
  }
  const tail = a.planforms.find((p) => p.id === 'tail');
  const wingEnd = wing.rootAftM + wing.rootChordM;
  if (
    tail &&
    Math.abs(tail.upM - wing.upM) < 0.01 &&
    tail.rootAftM < wingEnd &&
    tail.rootAftM + tail.rootChordM > wing.rootAftM
  )
    cannot(
      'tail',
      'The tail stands in the wing',
      `The wing reaches to ${mm(wingEnd)} behind the nose and the tail begins at ${mm(tail.rootAftM)}.`,
    );
  return found;
}
