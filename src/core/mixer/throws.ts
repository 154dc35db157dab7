import type { SurfaceId } from '../airframe/actuators.ts';
import { type Airframe, planformOf, type Surface } from '../airframe/airframe.ts';
import { stallSpeed } from '../airframe/performance.ts';
import { answerOf } from '../airframe/turning.ts';
import type { BuiltLinkage } from '../formats/benchTruth.ts';
import { clamp, DEG } from '../math/scalar.ts';
import { type Proof, type ProofWorld, stateOf } from '../proofs/proofs.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf } from '../settings/typed.ts';
import { angleOfEdge, fitLinkage, type Linkage, reachOf, rodFor, servoFor, surfaceAt } from './linkage.ts';
import { roleMix, sharesOf } from './roles.ts';

/** A servo's pulse at its middle and how far its travel reaches to either side: what small servos share, us. */
const SERVO_MIDDLE_US = 1500;
const SERVO_HALF_US = 500;
/** Lengths of a usual rod: arm, and where the servo's shaft stands ahead of the hinge, mm. */
const USUAL_ARM_MM = 11;
const USUAL_AHEAD_MM = 62;
const USUAL_TRAVEL_DEG = 45;
/** Thread of a small clevis (M2): how far half a turn moves it, mm. */
export const HALF_TURN_MM = 0.2;

/** From the hinge to the trailing edge where the surface is deepest, its inner end, mm; null for what is no flap. */
export function chordMmOf(airframe: Airframe, surface: Surface): number | null {
  const plan = surface.on === 'motor' ? undefined : planformOf(airframe, surface.on);
  if (!plan) return null;
  const chord = plan.rootChordM + (plan.tipChordM - plan.rootChordM) * surface.from;
  return 1000 * chord * surface.chordShare;
}

/** A servo's travel to either side, rad. */
export const servoTravel = (surface: Surface): number =>
  (surface.linkage?.servoTravelDeg ?? USUAL_TRAVEL_DEG) * DEG;

/** The linkage as the craft is described, arm and horn square, surface flush with the servo at its middle; mm, rad. */
export function describedLinkage(surface: Surface): Linkage {
  const arm = surface.linkage?.armMm ?? USUAL_ARM_MM;
  const horn =
    surface.linkage?.hornMm ?? (arm * Math.sin(servoTravel(surface))) / Math.sin(surface.throwDeg * DEG);
  // Arm and horn end at one height, so that the rod lies along the chord and both stand square to it.
  const level = { arm, horn, shaftAft: -USUAL_AHEAD_MM, shaftUp: arm - horn, armLean: 0, hornLean: 0 };
  return { ...level, rod: rodFor(level) };
}

/** The same as a rod on the bench that a hand can turn. */
export function builtAs(surface: Surface): BuiltLinkage {
  const l = describedLinkage(surface);
  return {
    surface: surface.id,
    armMm: l.arm,
    hornMm: l.horn,
    rodMm: l.rod,
    shaftAftMm: l.shaftAft,
    shaftUpMm: l.shaftUp,
    armLeanDeg: 0,
    hornLeanDeg: 0,
    playDeg: surface.linkage?.slopDeg ?? 0.3,
  };
}

/** Where a trailing edge stood at a pulse: rad, down positive (a rudder: left). */
export interface ThrowReading {
  readonly us: number;
  readonly angle: number;
  /** From which side the pulse came there, where that is known: its play lies on the other. */
  readonly from?: 'below' | 'above' | undefined;
}

/** Readings at nearly the same pulse are of one place, us. */
export const SAME_US = 25;

/** Pairs of readings of one place that was come to from both sides. */
function fromBothSides(
  readings: readonly ThrowReading[],
): (readonly [below: ThrowReading, above: ThrowReading])[] {
  return readings.flatMap((a) => {
    const b = readings.find((r) => r.from === 'above' && Math.abs(r.us - a.us) <= SAME_US);
    return a.from === 'below' && b ? [[a, b] as const] : [];
  });
}

/** Play of gears, rod and hinge at the surface, rad: what its place differs by the side it is come to from; null before that was read. */
export function playOf(readings: readonly ThrowReading[]): number | null {
  const pairs = fromBothSides(readings);
  return pairs.length === 0 ? null : Math.max(...pairs.map(([a, b]) => Math.abs(a.angle - b.angle)));
}

/** Readings of one place from both sides as one in the middle of its play. */
function withoutPlay(readings: readonly ThrowReading[]): ThrowReading[] {
  const pairs = fromBothSides(readings);
  const paired = new Set(pairs.flat());
  return [
    ...readings.filter((r) => !paired.has(r)),
    ...pairs.map(([a, b]) => ({ us: (a.us + b.us) / 2, angle: (a.angle + b.angle) / 2 })),
  ];
}

/** What ties pulses to angles on one surface. */
export interface Throw {
  readonly linkage: Linkage;
  /** 1 where a longer pulse moves it down. */
  readonly sign: 1 | -1;
  /** Servo travel to either side, rad. */
  readonly travel: number;
  /** Pulses between which it follows, us, and whether it binds within the servo's travel to either side. */
  readonly freeFromUs: number;
  readonly freeToUs: number;
  readonly binds: boolean;
}

/** Servo angle at a pulse, rad. */
export const servoOf = (t: Pick<Throw, 'sign' | 'travel'>, us: number) =>
  (t.sign * t.travel * (us - SERVO_MIDDLE_US)) / SERVO_HALF_US;
const usOf = (t: Pick<Throw, 'sign' | 'travel'>, servo: number) =>
  SERVO_MIDDLE_US + (t.sign * servo * SERVO_HALF_US) / t.travel;

/**
 * From readings to a throw: the two that lie farthest apart decide arm and rod, the direction of the pulse follows from them.
 * @param surface as it is described: leans and places are taken from it
 */
export function throwFrom(
  surface: Surface,
  readings: readonly ThrowReading[],
): Throw | { readonly refused: string } {
  const sorted = withoutPlay(readings).sort((a, b) => a.us - b.us);
  const [first, last] = [sorted[0], sorted.at(-1)];
  if (!first || !last || first === last) return { refused: 'It takes two readings, one near each end.' };
  const sign = last.angle >= first.angle ? 1 : -1;
  const travel = servoTravel(surface);
  const base = { sign, travel } as const;
  const fit = fitLinkage(describedLinkage(surface), [
    { servo: servoOf(base, first.us), surface: first.angle },
    { servo: servoOf(base, last.us), surface: last.angle },
  ]);
  if ('refused' in fit) return fit;
  return { ...base, ...freeOf(fit, base), linkage: fit };
}

function freeOf(linkage: Linkage, base: Pick<Throw, 'sign' | 'travel'>) {
  const reach = reachOf(linkage, base.travel);
  const ends = [usOf(base, reach.from), usOf(base, reach.to)].sort((a, b) => a - b);
  return { freeFromUs: ends[0]!, freeToUs: ends[1]!, binds: reach.bindsFrom || reach.bindsTo };
}

/** Where the surface stands at a pulse, rad; at its end of travel beyond where it binds. */
export function angleAt(t: Throw, us: number): number {
  return surfaceAt(t.linkage, servoOf(t, clamp(us, t.freeFromUs, t.freeToUs)));
}

/** Pulse that brings a surface to an angle, us; NaN where it does not go so far. */
export function usFor(t: Throw, angle: number): number {
  const servo = servoFor(t.linkage, angle, t.travel);
  return usOf(t, servo);
}

/** Half turns of the clevis that leave the surface flush with the servo at its middle; out positive, a longer rod. */
export function halfTurnsFor(t: Throw): number {
  return (rodFor(t.linkage) - t.linkage.rod) / HALF_TURN_MM;
}

/** How unequal the servo's travel comes out at the surface: degrees per degree near the ends over those in the middle, less one. */
export function unevenness(t: Throw, lowUs: number, highUs: number): number {
  const slope = (us: number) => Math.abs(angleAt(t, us + 5) - angleAt(t, us - 5));
  const middle = slope(SERVO_MIDDLE_US);
  const inside = (us: number) => clamp(us, t.freeFromUs + 6, t.freeToUs - 6);
  return Math.min(slope(inside(lowUs)), slope(inside(highUs))) / middle - 1;
}

/** Speed over the stall at which a craft must still answer as it is set to. */
const WANTED_AT = 1.3;

/** What the panel model wants of a surface. */
export interface WantedThrow {
  /** To either side, rad. */
  readonly angle: number;
  /** For which command, how fast, deg/s, and at which speed, m/s. */
  readonly axis: 'roll' | 'pitch' | 'yaw';
  readonly rateDeg: number;
  readonly speedMps: number;
}

/**
 * Throw that turns the craft as fast as it is set to, at 1.3 times its stall speed, by the panel model; of several axes the one that
 * wants most. Null for what serves none.
 */
export function wantedThrow(airframe: Airframe, values: Values, id: SurfaceId): WantedThrow | null {
  const surface = airframe.surfaces.find((s) => s.id === id);
  if (!surface || surface.on === 'motor') return null;
  const mix = roleMix(id, airframe.kind, sharesOf(values));
  const speedMps = WANTED_AT * stallSpeed(airframe);
  let most: WantedThrow | null = null;
  (['roll', 'pitch', 'yaw'] as const).forEach((axis, i) => {
    if (mix[axis] === 0) return;
    const rateDeg = settingOf(values, `rate.${axis}.max`);
    const { rate } = answerOf(airframe, i as 0 | 1 | 2, speedMps);
    if (rateDeg === undefined || !(rate > 0.05)) return;
    const angle = ((rateDeg * DEG) / rate) * surface.throwDeg * DEG;
    if (!most || angle > most.angle) most = { angle, axis, rateDeg, speedMps };
  });
  return most;
}

/** A reading by ruler, mm of the trailing edge, or by protractor, degrees; rad, NaN for what no edge can stand off. */
export function angleRead(read: { readonly mm: number } | { readonly deg: number }, chordMm: number): number {
  return 'deg' in read ? read.deg * DEG : angleOfEdge(read.mm, chordMm);
}

const twinOf = (id: SurfaceId): string =>
  id.startsWith('left-') ? id.replace('left-', 'right-') : id.replace('right-', 'left-');

/** The surface on the other side, where there is one. */
export function twin(airframe: Airframe, id: SurfaceId): SurfaceId | null {
  const other = twinOf(id);
  return other === id ? null : (airframe.surfaces.find((s) => s.id === other)?.id ?? null);
}

/** Proofs of throws that still hold, as what they tie together, by surface. */
export function throwsSeen(proofs: readonly Proof[], w: ProofWorld): ReadonlyMap<SurfaceId, MeasuredThrow> {
  const found = new Map<SurfaceId, MeasuredThrow>();
  for (const proof of proofs) {
    const { seen } = proof;
    if (seen.kind !== 'throw' || stateOf(proof, w) !== 'proven') continue;
    const surface = w.airframe.surfaces.find((s) => s.id === seen.surface);
    const t = surface && throwFrom(surface, seen.readings);
    if (t && !('refused' in t))
      found.set(seen.surface, { ...t, output: seen.output, play: playOf(seen.readings) });
  }
  return found;
}

export interface MeasuredThrow extends Throw {
  readonly output: number;
  /** rad; null before it was read from both sides. */
  readonly play: number | null;
}

/** Ends and centre of a surface by the settings of its output, rad, down positive: the end that is up first. */
export function endsOf(
  t: MeasuredThrow,
  values: Values,
): { readonly up: number; readonly rest: number; readonly down: number } | null {
  const at = (part: 'low' | 'centre' | 'high') => settingOf(values, `out.${t.output}.${part}`);
  const [low, centre, high] = [at('low'), at('centre'), at('high')];
  if (low === undefined || centre === undefined || high === undefined) return null;
  const [a, b] = [angleAt(t, low), angleAt(t, high)];
  return { up: Math.min(a, b), rest: angleAt(t, centre), down: Math.max(a, b) };
}

/** A throw as the craft is described, before anything was measured. */
export function describedThrow(surface: Surface, reversed: boolean): Throw {
  const base = { sign: reversed ? -1 : 1, travel: servoTravel(surface) } as const;
  const linkage = describedLinkage(surface);
  return { ...base, ...freeOf(linkage, base), linkage };
}
