/** What is done to the sensors of a craft on the bench; nothing of it in flight. */
export class Around {
  /** Moving air along the nose from a fan, and what the craft's own propellers blow over its body, m/s. */
  wind = 0;
  wash = 0;
  /** What a breath adds at the tube and at the board, Pa. */
  breath = 0;
  /** A lamp shines on the board. */
  light = false;
  /** The cover is on the tube. */
  covered = false;
  /** A cold room. */
  cold = false;
  /** A magnetic screwdriver is moved by a hand near the compass. */
  screwdriver = false;
  /** A load of its own on the battery, A. */
  loadA = 0;
}

/** What the tools on the bench do, as a person holds them. */
export interface Tools {
  readonly fan: boolean;
  readonly lamp: boolean;
  readonly screwdriver: boolean;
  readonly tube: 'open' | 'covered' | 'breathed into';
  readonly load: boolean;
  readonly cold: boolean;
}

export const toolsAway: Tools = {
  fan: false,
  lamp: false,
  screwdriver: false,
  tube: 'open',
  load: false,
  cold: false,
};

/** A table fan half a metre away, m/s; a breath, Pa; what the load draws as printed on it, A. */
const FAN = 11;
const BREATH_PA = 420;
export const LOAD_A = 8;

/** @param wash air that the craft's own propellers move past it, m/s */
export function putAround(around: Around, tools: Tools, batteryIn: boolean, wash: number): void {
  around.wind = tools.fan ? FAN : 0;
  around.wash = wash;
  around.light = tools.lamp;
  around.covered = tools.tube === 'covered';
  around.breath = tools.tube === 'breathed into' ? BREATH_PA : 0;
  around.cold = tools.cold;
  around.screwdriver = tools.screwdriver;
  around.loadA = tools.load && batteryIn ? LOAD_A : 0;
}
