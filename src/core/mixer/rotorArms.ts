import { Matrix, pseudoInverse } from 'ml-matrix';
import type { Airframe, Motor } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { outputDriving } from './commanded.ts';
import type { RoleMix } from './roles.ts';

/** A rotor by where it stands from the centre of gravity. */
export interface RotorArm {
  /** m */
  readonly right: number;
  /** m */
  readonly ahead: number;
  /** Seen from above. */
  readonly turns: Motor['spin'];
}

/** Below this share of its fellows an axis is none that these arms can command. */
const LEAST_SINGULAR = 1e-6;

/**
 * How rotors of any frame answer commands, so that each command turns the craft about its own axis and lifts it no more: the
 * columns of the pseudoinverse of what each rotor does (lift 1, roll -right, pitch +ahead, yaw +1 where it turns anticlockwise),
 * each axis scaled so that the rotor that answers most answers fully. Frames of regular shape come out as by their tables.
 * Source: least-norm control allocation, W. C. Durham, "Constrained control allocation", J. Guidance 16(4), 1993, with no limits.
 * @returns null where the arms cannot roll and pitch the craft apart from lifting it
 */
export function armMixes(arms: readonly RotorArm[]): RoleMix[] | null {
  if (arms.length === 0) return null;
  const reach = Math.max(...arms.map((a) => Math.hypot(a.right, a.ahead)));
  if (!(reach > 0)) return null;
  const rows = [
    arms.map(() => 1),
    arms.map((a) => -a.right / reach),
    arms.map((a) => a.ahead / reach),
    arms.map((a) => (a.turns === 'anticlockwise' ? 1 : -1)),
  ];
  // Three rotors cannot yaw apart from the rest: then a servo does, and they leave it alone.
  const yaws = commands(rows);
  const inverse = yaws ?? commands(rows.slice(0, 3));
  if (!inverse) return null;
  return arms.map((_, i) => ({
    roll: inverse.get(i, 1),
    pitch: inverse.get(i, 2),
    yaw: yaws ? inverse.get(i, 3) : 0,
    throttle: 1,
    flap: 0,
  }));
}

/** Rotors by commands, the largest of each column 1; null where not every command is one of its own. */
function commands(rows: readonly (readonly number[])[]): Matrix | null {
  const does = new Matrix(rows.map((r) => [...r]));
  const inverse = pseudoInverse(does);
  const whole = does.mmul(inverse).sub(Matrix.eye(rows.length));
  if (whole.to1DArray().some((v) => Math.abs(v) > LEAST_SINGULAR)) return null;
  for (let c = 0; c < inverse.columns; c++) {
    const most = Math.max(...inverse.getColumn(c).map(Math.abs));
    for (let r = 0; r < inverse.rows; r++) inverse.set(r, c, inverse.get(r, c) / most);
  }
  return inverse;
}

/** Where a board takes the rotor of an output to stand, from 1. */
export function armOf(values: Values, output: number): RotorArm {
  const s = settingsOf(values);
  return {
    right: s.number(`out.${output}.armRight`) / 1000,
    ahead: s.number(`out.${output}.armAhead`) / 1000,
    turns: s.choice(`out.${output}.turns`),
  };
}

/** The mixes of rotors that are set to go by their arms, by output; null where the usual table of the frame holds. */
export function ownRotorMixes(values: Values, outputs: readonly number[]): Map<number, RoleMix> | null {
  const mixes =
    settingOf(values, 'mix.rotors') === 'arms' ? armMixes(outputs.map((n) => armOf(values, n))) : null;
  return mixes && new Map(outputs.map((n, i) => [n, mixes[i]!]));
}

/** Edits that make a board go by the arms of a craft; of rotors that no output drives, none. */
export function editsFromArms(airframe: Airframe, values: Values): Values {
  return Object.assign(
    { 'mix.rotors': 'arms' },
    ...airframe.motors.map((m) => {
      const n = outputDriving(values, m.id);
      return n === null
        ? {}
        : {
            [`out.${n}.armRight`]: Math.round(1000 * m.rightM),
            [`out.${n}.armAhead`]: Math.round(1000 * (airframe.cgAftM - m.aftM)),
            [`out.${n}.turns`]: m.spin,
          };
    }),
  );
}

/** Rotors whose arm or turning, as a board has it, is not the craft's: farther off than a finger's breadth. */
export function armsUnlike(airframe: Airframe, values: Values): Motor[] {
  if (settingOf(values, 'mix.rotors') !== 'arms') return [];
  return airframe.motors.filter((m) => {
    const n = outputDriving(values, m.id);
    if (n === null) return false;
    const arm = armOf(values, n);
    const off = Math.hypot(arm.right - m.rightM, arm.ahead - (airframe.cgAftM - m.aftM));
    return off > FINGER_M || arm.turns !== m.spin;
  });
}
const FINGER_M = 0.02;
