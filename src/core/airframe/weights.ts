import { actuatorNames } from './actuators.ts';
import { type Airframe, isRotorcraft, type Planform, type Weight } from './airframe.ts';
import { massParts } from './massModel.ts';
import { meanChord, neutralPoint } from './performance.ts';

/** What a craft weighs, part by part, and where that puts its centre of gravity. */

/** kg of a small servo, and of a board with its case. */
const SERVO_KG = 0.012;
const BOARD_KG = 0.022;
/** Nothing is fixed closer to the nose or tail than this share of the length. */
const END_SHARE = 0.02;

export interface Balance {
  readonly massKg: number;
  /** Centre of gravity, m: aft of the nose, right of the middle. */
  readonly aftM: number;
  readonly rightM: number;
}

/** Where the weights balance. @throws RangeError when they weigh nothing */
export function balanceOf(weights: readonly Weight[]): Balance {
  const massKg = weights.reduce((s, w) => s + w.massKg, 0);
  if (!(massKg > 0)) throw new RangeError('the parts weigh nothing');
  const mean = (at: (w: Weight) => number) => weights.reduce((s, w) => s + w.massKg * at(w), 0) / massKg;
  return { massKg, aftM: mean((w) => w.aftM), rightM: mean((w) => w.rightM) };
}

/** The same craft with its weights, and the mass and balance that follow from them. */
export function withWeights(airframe: Airframe, weights: readonly Weight[]): Airframe {
  const { massKg, aftM } = balanceOf(weights);
  return { ...airframe, weights: [...weights], massKg, cgAftM: aftM };
}

/**
 * The weights that were given, a motor's where the motor is; or an estimate from the craft's mass and dimensions,
 * which balances where it does.
 */
export function weightsOf(airframe: Airframe): Weight[] {
  if (!airframe.weights) return estimate(airframe);
  return airframe.weights.map((w) => {
    const motor = airframe.motors.find((m) => m.id === w.id);
    return motor ? { ...w, aftM: motor.aftM, rightM: motor.rightM, upM: motor.upM } : w;
  });
}

function estimate(airframe: Airframe): Weight[] {
  const parts = massParts(airframe);
  const total = (name: string) => {
    const own = parts.filter((p) => p.name === name);
    const massKg = own.reduce((s, p) => s + p.massKg, 0);
    const aftM = massKg > 0 ? own.reduce((s, p) => s + p.massKg * p.aftM, 0) / massKg : 0;
    return { massKg, aftM };
  };
  const weights: Weight[] = [];
  const put = (id: string, name: string, massKg: number, aftM: number, rightM = 0) => {
    weights.push({ id, name, massKg, aftM, rightM, upM: 0 });
  };
  for (const m of airframe.motors) {
    put(m.id, actuatorNames[m.id], total(m.id).massKg, m.aftM, m.rightM);
    const arm = total(`arm of the ${m.id}`);
    if (arm.massKg > 0)
      put(`arm of the ${m.id}`, `arm, ${actuatorNames[m.id]}`, arm.massKg, arm.aftM, m.rightM / 2);
  }
  for (const p of airframe.planforms) {
    const { massKg, aftM } = total(p.id);
    const servos = airframe.surfaces.filter((s) => s.on === p.id);
    // A planform keeps the greater part of its mass for itself.
    const servoKg = servos.length > 0 ? Math.min(SERVO_KG, (0.4 * massKg) / servos.length) : 0;
    put(p.id, p.id, massKg - servos.length * servoKg, aftM);
    for (const s of servos) {
      const at = servoPlace(p, (s.from + s.to) / 2, s.id);
      put(`servo.${s.id}`, `servo, ${actuatorNames[s.id]}`, servoKg, at.aftM, at.rightM);
    }
  }
  const electronics = total('electronics');
  const boardKg = Math.min(BOARD_KG, 0.5 * electronics.massKg);
  put('board', 'board', boardKg, airframe.cgAftM);
  put('receivers', 'receivers and wires', electronics.massKg - boardKg, electronics.aftM);
  const battery = total('battery');
  put('battery', 'battery', battery.massKg, battery.aftM);
  const body = total('body');
  put('body', isRotorcraft(airframe) ? 'frame' : 'body', body.massKg, body.aftM);
  // The body, whose own middle is known least, takes up what is left to balance where the craft does.
  const now = balanceOf(weights);
  const at = weights[weights.length - 1]!;
  const shift = ((airframe.cgAftM - now.aftM) * now.massKg) / at.massKg;
  weights[weights.length - 1] = { ...at, aftM: at.aftM + shift };
  return weights;
}

/** In the wing ahead of its surface, at the middle of that. */
function servoPlace(p: Planform, share: number, id: string): { aftM: number; rightM: number } {
  const chord = p.rootChordM + (p.tipChordM - p.rootChordM) * share;
  const aftM = p.rootAftM + (p.tipAftM - p.rootAftM) * share + 0.35 * chord;
  const half = p.pair ? p.rootRightM + (p.spanM / 2) * share : 0;
  const side = id.startsWith('left') ? -1 : id.startsWith('right') ? 1 : 0;
  return { aftM, rightM: side * half };
}

export interface Placing {
  /** Where its middle would have to be, m aft of the nose. */
  readonly aftM: number;
  /** Whether that is within the craft. */
  readonly inside: boolean;
  /** Where not: what it can do at most, and the weight at the end of the craft that does the rest. */
  readonly instead: {
    readonly aftM: number;
    readonly ballastKg: number;
    readonly ballastAftM: number;
  } | null;
}

/**
 * Where a part has to be for a static margin, by the moments about the wanted centre of gravity.
 * @param margin (neutral point - centre of gravity) over the mean chord
 * @throws RangeError for a part that is not there or weighs nothing, and for craft without a wing
 */
export function placeFor(
  airframe: Airframe,
  weights: readonly Weight[],
  id: string,
  margin: number,
): Placing {
  const part = weights.find((w) => w.id === id);
  const wing = airframe.planforms.find((p) => p.id === 'wing');
  if (!part || part.massKg <= 0) throw new RangeError(`${id} weighs nothing`);
  if (!wing) throw new RangeError(`${airframe.name} has no wing`);
  const cg = neutralPoint(airframe) - margin * meanChord(wing).chordM;
  const { massKg } = balanceOf(weights);
  const others = weights.reduce((s, w) => (w === part ? s : s + w.massKg * w.aftM), 0);
  const aftM = (cg * massKg - others) / part.massKg;
  const [first, last] = [END_SHARE * airframe.lengthM, (1 - END_SHARE) * airframe.lengthM];
  if (aftM >= first && aftM <= last) return { aftM, inside: true, instead: null };
  const most = aftM < first ? first : last;
  // Ballast b at x: (others + part at its end + b x) = cg (mass + b).
  const moment = others + part.massKg * most;
  const ballastKg = (cg * massKg - moment) / (most - cg);
  return { aftM, inside: false, instead: { aftM: most, ballastKg, ballastAftM: most } };
}

/** Where the board sits from the centre of gravity, m: forward, right and up; null where that was not said. */
export function boardOffset(
  airframe: Airframe,
): { readonly forwardM: number; readonly rightM: number; readonly upM: number } | null {
  const board = airframe.weights?.find((w) => w.id === 'board');
  return board ? { forwardM: airframe.cgAftM - board.aftM, rightM: board.rightM, upM: board.upM } : null;
}
