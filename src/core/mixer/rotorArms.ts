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
    roll: inverse[1]![i]!,
    pitch: inverse[2]![i]!,
    yaw: yaws ? inverse[3]![i]! : 0,
    throttle: 1,
    flap: 0,
  }));
}

/** Commands by rotors, the largest of each 1: the pseudoinverse B^T (B B^T)^-1; null where not every command is one of its own. */
function commands(does: readonly (readonly number[])[]): number[][] | null {
  const gram = does.map((a) => does.map((b) => a.reduce((sum, v, i) => sum + v * b[i]!, 0)));
  const inverse = inverted(gram);
  if (!inverse) return null;
  return inverse.map((column) => {
    const shares = does[0]!.map((_, rotor) => column.reduce((sum, v, r) => sum + v * does[r]![rotor]!, 0));
    const most = Math.max(...shares.map(Math.abs));
    return shares.map((v) => v / most);
  });
}

/** A pivot below this share of the largest entry is none. */
const LEAST_PIVOT = 1e-9;

/** The inverse of a small symmetric matrix, by elimination with the largest pivot; null where it has none. */
function inverted(symmetric: readonly (readonly number[])[]): number[][] | null {
  const n = symmetric.length;
  const rows = symmetric.map((row, i) => [...row, ...row.map((_, k) => (k === i ? 1 : 0))]);
  const scale = Math.max(...symmetric.flat().map(Math.abs));
  for (let c = 0; c < n; c++) {
    let pivot = c;
    for (let r = c + 1; r < n; r++) if (Math.abs(rows[r]![c]!) > Math.abs(rows[pivot]![c]!)) pivot = r;
    if (!(Math.abs(rows[pivot]![c]!) > LEAST_PIVOT * scale)) return null;
    [rows[c], rows[pivot]] = [rows[pivot]!, rows[c]!];
    const top = rows[c]!.map((v) => v / rows[c]![c]!);
    rows[c] = top;
    for (let r = 0; r < n; r++) {
      if (r === c) continue;
      const by = rows[r]![c]!;
      rows[r] = rows[r]!.map((v, k) => v - by * top[k]!);
    }
  }
  return rows.map((row) => row.slice(n));
}

/** Where a board takes the rotor of an output to stand, from 1. */
function armOf(values: Values, output: number): RotorArm {
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
