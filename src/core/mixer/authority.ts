import { type ActuatorId, isFitting, isMotor } from '../airframe/actuators.ts';
import { type Airframe, actuatorsOf, isRotorcraft } from '../airframe/airframe.ts';
import { inertiaOf } from '../airframe/massModel.ts';
import { dutyFor, hoverOf, stallSpeed, trimLevel } from '../airframe/performance.ts';
import { SEA_LEVEL_DENSITY } from '../flight/atmosphere.ts';
import { Battery } from '../flight/battery.ts';
import { PanelModel } from '../flight/panels.ts';
import { HOUSE_CURRENT_A } from '../flight/plant.ts';
import { MotorUnit } from '../flight/propulsion.ts';
import { Servo } from '../flight/servo.ts';
import { clamp } from '../math/scalar.ts';
import type { Triple } from '../math/triple.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { freeRowsOf, rowGives } from './freeRows.ts';
import { type RoleMix, roleMix, sharesOf } from './roles.ts';
import { ownRotorMixes } from './rotorArms.ts';
import { RotorShare } from './rotorShare.ts';

export const axes = ['roll', 'pitch', 'yaw'] as const;
export type Axis = (typeof axes)[number];

/** One output and what of each command it takes. */
export interface MixRow {
  readonly output: number;
  readonly drives: ActuatorId;
  readonly mix: RoleMix;
}

/** The mix as a board is set, output by output. */
export function mixRows(airframe: Airframe, values: Values): MixRow[] {
  const shares = sharesOf(values);
  const own = new Set<string>(actuatorsOf(airframe));
  const rows: MixRow[] = [];
  for (let output = 1; ; output++) {
    const drives = settingOf(values, `out.${output}.drives`);
    if (drives === undefined) return isRotorcraft(airframe) ? byTheirArms(rows, values) : rows;
    if (drives === 'nothing' || !own.has(drives)) continue;
    const id = drives as ActuatorId;
    rows.push({ output, drives: id, mix: roleMix(id, airframe.kind, shares) });
  }
}

/** Rotors by where each stands, where a board is set so. */
function byTheirArms(rows: readonly MixRow[], values: Values): MixRow[] {
  const motors = rows.filter((r) => isMotor(r.drives)).map((r) => r.output);
  const own = ownRotorMixes(values, motors);
  return rows.map((r) => ({ ...r, mix: own?.get(r.output) ?? r.mix }));
}

/** What a mix does to a craft. */
export interface Authority {
  readonly speedMps: number;
  /** Turning acceleration by a full command, rad/s^2: [axis that turns][command], roll right, pitch up, yaw right positive. */
  readonly turns: readonly [Triple, Triple, Triple];
  /** Axes that cannot be commanded apart from the others. */
  readonly lacking: readonly Axis[];
  /** Of an own axis, what is left where commands add up at the ends of the sticks. */
  readonly together: readonly Together[];
}

interface Together {
  readonly commands: readonly Axis[];
  /** Share of what each alone does that is lost, 0..1, by axis. */
  readonly lost: Readonly<Record<Axis, number>>;
}

/** An axis whose command turns the craft by less than this is not commanded, rad/s^2. */
const LEAST_TURN = 0.05;
const pairs: readonly (readonly Axis[])[] = [
  ['roll', 'pitch'],
  ['roll', 'yaw'],
  ['pitch', 'yaw'],
  ['roll', 'pitch', 'yaw'],
];

type Command = Readonly<Record<Axis, number>>;
const still: Command = { roll: 0, pitch: 0, yaw: 0 };

/** What a craft does with its outputs. */
interface Actuation {
  /** Where a command puts each row within its ends: -1..1, of motors 0..1. */
  readonly given: (command: Command) => readonly number[];
  /** Moments of the rows where they stand, N m. */
  readonly moments: (shares: readonly number[]) => readonly number[];
}

/**
 * Moments over inertia, by the panel model where wings fly and by settled rotors where they hover; in level flight at a speed, of
 * rotors in a hover at half charge. The air's damping is left out: this is how a turn begins.
 * @param speedMps of wings; left out, the stall speed
 * @param switched with every switch on that lets a row of one's own act; left out, with all of them off
 */
export function authorityOf(
  airframe: Airframe,
  values: Values,
  speedMps?: number,
  switched = false,
): Authority {
  const { craft, rows, speed } = actuationOf(airframe, values, speedMps, switched);
  const turns = turnsOf(airframe, craft, 1);
  const effects = effectsOf(craft, rows.length);
  return {
    speedMps: speed,
    turns,
    lacking: lackingAxes(turns),
    together: pairs.map((commands) => ({ commands, lost: lostOf(commands, craft, effects, turns) })),
  };
}

function actuationOf(airframe: Airframe, values: Values, speedMps: number | undefined, switched: boolean) {
  const rotors = isRotorcraft(airframe);
  const speed = rotors ? 0 : (speedMps ?? stallSpeed(airframe));
  const rows = mixRows(airframe, values);
  const own = ownRows(values, switched);
  const craft = rotors
    ? byRotors(airframe, values, rows, own)
    : bySurfaces(airframe, values, rows, own, speed);
  return { craft, rows, speed };
}

/** [axis that turns][command], of commands of one size to either side, per whole command. */
function turnsOf(airframe: Airframe, craft: Actuation, size: number): Authority['turns'] {
  const inertia = inertiaOf(airframe);
  const over = [inertia.xx, inertia.yy, inertia.zz];
  const columns = axes.map((axis) => {
    const at = (command: number) => craft.moments(craft.given({ ...still, [axis]: command }));
    const [up, down] = [at(size), at(-size)];
    return [0, 1, 2].map((i) => (up[i]! - down[i]!) / (2 * size) / over[i]!);
  });
  return [0, 1, 2].map((i) => columns.map((c) => c[i]!)) as unknown as Authority['turns'];
}

/**
 * As `turns` of `authorityOf`, by commands so small that nothing reaches its end.
 * @param speedMps of wings
 */
export const smallTurns = (airframe: Airframe, values: Values, speedMps: number): Authority['turns'] =>
  turnsOf(airframe, actuationOf(airframe, values, speedMps, false).craft, NUDGE);

/** So far a row is moved to see what it does. */
const NUDGE = 0.1;

/** What each row does to each axis for a whole share, by a small one: [axis][row], N m. */
function effectsOf(craft: Actuation, count: number): readonly (readonly number[])[] {
  const rest = craft.given(still);
  const columns = Array.from({ length: count }, (_, k) => {
    const at = (by: number) => craft.moments(rest.map((v, i) => (i === k ? v + by : v)));
    const [up, down] = [at(NUDGE), at(-NUDGE)];
    return [0, 1, 2].map((i) => (up[i]! - down[i]!) / (2 * NUDGE));
  });
  return [0, 1, 2].map((i) => columns.map((c) => c[i]!));
}

/** What of each axis's own turn finds no room when commands are given together, the worst of all ways to add them up. */
function lostOf(
  commands: readonly Axis[],
  craft: Actuation,
  effects: readonly (readonly number[])[],
  turns: Authority['turns'],
): Together['lost'] {
  const lost = { roll: 0, pitch: 0, yaw: 0 };
  const rest = craft.given(still);
  /** What a command does to an axis, as far as it is given. */
  const does = (axis: number, command: Partial<Command>) => {
    const given = craft.given({ ...still, ...command });
    return effects[axis]!.reduce((sum, e, row) => sum + e * (given[row]! - rest[row]!), 0);
  };
  for (let corner = 0; corner < 2 ** commands.length; corner++) {
    const signs = commands.map((_, k) => ((corner >> k) & 1 ? -1 : 1));
    const all = Object.fromEntries(commands.map((a, k) => [a, signs[k]!]));
    commands.forEach((axis, k) => {
      const i = axes.indexOf(axis);
      if (Math.abs(turns[i]![i]!) < LEAST_TURN) return;
      const want = does(i, { [axis]: signs[k]! });
      // What the other commands do to this axis on their way is not lost by this one.
      const others = commands.reduce((sum, a, n) => (n === k ? sum : sum + does(i, { [a]: signs[n]! })), 0);
      lost[axis] = Math.max(lost[axis], clamp(1 - (does(i, all) - others) / want, 0, 1));
    });
  }
  return lost;
}

/** Axes that no combination of commands turns apart from the rest: by elimination with the largest pivot. */
export function lackingAxes(turns: readonly (readonly number[])[]): Axis[] {
  const m = turns.map((r) => [...r]);
  const left = new Set<number>([0, 1, 2]);
  const columns = new Set<number>([0, 1, 2]);
  for (;;) {
    let best: readonly [row: number, column: number] | null = null;
    let most = LEAST_TURN;
    for (const i of left)
      for (const j of columns)
        if (Math.abs(m[i]![j]!) > most) {
          most = Math.abs(m[i]![j]!);
          best = [i, j];
        }
    if (!best) return axes.filter((_, i) => left.has(i));
    const [row, column] = best;
    for (const i of left) {
      if (i === row) continue;
      const k = m[i]![column]! / m[row]![column]!;
      for (const j of columns) m[i]![j]! -= k * m[row]![j]!;
    }
    left.delete(row);
    columns.delete(column);
  }
}

/** Moments of wings, N m: surfaces by the panel model, motors by what throttle they fly at. */
function bySurfaces(
  airframe: Airframe,
  values: Values,
  rows: readonly MixRow[],
  own: OwnRows,
  speed: number,
): Actuation {
  const s = settingsOf(values);
  const [turnRudder, aileronUp, differential] = [
    s.number('mix.turnRudder'),
    s.number('mix.aileronUp'),
    s.number('mix.differential'),
  ];
  const panels = new PanelModel(airframe);
  const trim = trimLevel(airframe, speed);
  // Where no trim is found the nose is as high as just before the stall.
  const alpha = trim?.alpha ?? 0.15;
  const v = Float64Array.of(speed * Math.cos(alpha), 0, speed * Math.sin(alpha));
  const w = new Float64Array(3);
  const deflections = new Float64Array(airframe.surfaces.length);
  const servos = airframe.surfaces.map((surface) => new Servo(surface));
  const run = propulsion(airframe, speed);
  const base = trim ? dutyFor(airframe, trim.thrust, speed) : 0.5;
  return {
    given: (c) =>
      rows.map(({ output, drives, mix }) => {
        const added = own(output, c);
        if (isMotor(drives))
          return clamp(base + (mix.yaw * differential * c.yaw + added) * Math.min(1, 3 * base), 0, 1);
        let d = mix.roll * c.roll + mix.pitch * c.pitch + mix.yaw * c.yaw;
        if (mix.yaw !== 0 && mix.roll === 0) d += mix.yaw * turnRudder * c.roll;
        if (mix.roll !== 0 && mix.pitch === 0 && d > 0) d *= 1 - aileronUp;
        return clamp(d + added, -1, 1);
      }),
    moments: (shares) => {
      let yaw = 0;
      rows.forEach(({ drives }, k) => {
        if (isMotor(drives) || isFitting(drives)) return;
        const i = airframe.surfaces.findIndex((x) => x.id === drives);
        deflections[i] = servos[i]!.at(shares[k]!);
      });
      run(dutiesOf(airframe, rows, shares)).forEach((unit, i) => {
        yaw -= airframe.motors[i]!.rightM * unit.thrust;
        panels.wake[i] = unit.wake;
      });
      panels.evaluate(v, w, deflections);
      const [mx, my, mz] = panels.moment;
      return [mx!, my!, mz! + yaw];
    },
  };
}

type OwnRows = (output: number, c: Command) => number;

/** What rows of one's own add to an output for a command; those behind a switch only where it is on. */
function ownRows(values: Values, switched: boolean): OwnRows {
  const rows = freeRowsOf(values).flatMap((r) => {
    const axis = axes.find((a) => r.source === a || r.source === `stick-${a}`);
    return axis && (switched || r.channel === 0) ? [{ ...r, axis }] : [];
  });
  return (output, c) =>
    rows.reduce((sum, r) => (r.output === output ? sum + rowGives(r, c[r.axis]) : sum), 0);
}

/** Moments of rotors in a hover, N m, their duties shared as the board shares them. */
function byRotors(airframe: Airframe, values: Values, rows: readonly MixRow[], own: OwnRows): Actuation {
  const throttle = hoverOf(airframe).throttle;
  const run = propulsion(airframe, 0);
  const motors = rows.filter((r) => isMotor(r.drives));
  const idle = settingsOf(values).number('motor.idle');
  const rotors = new RotorShare(
    motors.map((r) => r.mix),
    idle,
  );
  const servos = airframe.surfaces.map((surface) => new Servo(surface));
  return {
    given: (c) => {
      rotors.share({ ...c, throttle });
      return rows.map((row) => {
        const { mix, output } = row;
        const k = motors.indexOf(row);
        const added = own(output, c);
        return k >= 0
          ? clamp(rotors.duties[k]! + added, idle, 1)
          : clamp(mix.roll * c.roll + mix.pitch * c.pitch + mix.yaw * c.yaw + added, -1, 1);
      });
    },
    moments: (shares) => {
      const tilts = airframe.surfaces.map((s, i) => {
        const row = rows.findIndex((r) => r.drives === s.id);
        return row >= 0 ? servos[i]!.at(shares[row]!) : 0;
      });
      const total: [number, number, number] = [0, 0, 0];
      run(dutiesOf(airframe, rows, shares)).forEach(({ thrust, torque }, i) => {
        const motor = airframe.motors[i]!;
        const tilt = motor.tiltedBy
          ? (tilts[airframe.surfaces.findIndex((s) => s.id === motor.tiltedBy)] ?? 0)
          : 0;
        const [fy, fz] = [-thrust * Math.sin(tilt), -thrust * Math.cos(tilt)];
        const [x, y, z] = [airframe.cgAftM - motor.aftM, motor.rightM, -motor.upM];
        // Air drags a rotor that turns clockwise seen from above anticlockwise, and the craft with it.
        const react = (motor.spin === 'clockwise' ? -1 : 1) * torque;
        total[0] += y * fz - z * fy;
        total[1] += -x * fz;
        total[2] += x * fy + react;
      });
      return total;
    },
  };
}

/** Duties of the craft's motors; of one that no output drives, none. */
function dutiesOf(airframe: Airframe, rows: readonly MixRow[], shares: readonly number[]): Float64Array {
  return Float64Array.from(airframe.motors, (m) => shares[rows.findIndex((r) => r.drives === m.id)] ?? 0);
}

/** Motors at their steady speed, all from the one pack, half empty; what was run already is not run again. */
function propulsion(airframe: Airframe, speed: number): (duties: Float64Array) => readonly MotorUnit[] {
  const known = new Map<string, readonly MotorUnit[]>();
  return (duties) => {
    const key = duties.join();
    const units = known.get(key) ?? settled(airframe, duties, speed);
    known.set(key, units);
    return units;
  };
}

/** Motors run for long enough to their steady speed, all from the one pack, half empty. */
function settled(airframe: Airframe, duties: Float64Array, speed: number): readonly MotorUnit[] {
  const b = airframe.battery;
  const pack = new Battery(b.chemistry, b.cells, b.capacityMah * 3.6, b.cells * b.cellResistanceOhm);
  pack.usedAs = 0.45 * pack.capacityAs;
  const units = airframe.motors.map((m) => new MotorUnit(m));
  for (let k = 0; k < SETTLE_STEPS; k++) {
    pack.share(duties, units, HOUSE_CURRENT_A);
    let current = HOUSE_CURRENT_A;
    units.forEach((unit, i) => {
      unit.meet(duties[i]!, pack.voltage, speed, SEA_LEVEL_DENSITY);
      unit.step(0.001);
      current += unit.currentA;
    });
    pack.currentA = current;
    pack.step(0.001);
  }
  return units;
}

/** ms: several times what a shaft takes. */
const SETTLE_STEPS = 600;
