import * as z from 'zod';
import { actuatorIds, motorIds, surfaceIds } from '../airframe/actuators.ts';
import { armTries } from '../arming/drill.ts';
import { lookedAt } from '../field/looks.ts';
import { verdicts } from '../formats/rehearsalResult.ts';

/** Ways in which a craft is tilted, and turned about its height, to see whether it opposes that. */
export const tilts = ['roll-right', 'roll-left', 'nose-up', 'nose-down', 'yaw-right', 'yaw-left'] as const;
export type Tilt = (typeof tilts)[number];
export const stickNames = ['roll', 'pitch', 'throttle', 'yaw'] as const;
export type StickName = (typeof stickNames)[number];

/** Gestures that tell the mounting, and the six poses. */
const heldAs = [
  'gesture.flat',
  'gesture.nose-up',
  'gesture.wing',
  'gesture.nose-again',
  'pose.flat',
  'pose.right-down',
  'pose.left-down',
  'pose.nose-up',
  'pose.nose-down',
  'pose.back',
] as const;
export type HeldAs = (typeof heldAs)[number];
const triple = z.tuple([z.number(), z.number(), z.number()]);

const outputNumber = z.number().int().min(1).max(32);

/** What was seen: by a person on the bench, or by a rehearsal. */
export const seenSchema = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('moved'),
    output: outputNumber,
    actuator: z.enum(actuatorIds),
    /** Of a surface, where its trailing edge went first; of a motor, how it turned, where that was looked at. */
    first: z.enum(['down', 'up', 'left', 'right', 'turned', 'clockwise', 'anticlockwise']),
  }),
  z.object({ kind: z.literal('still'), output: outputNumber }),
  z.object({
    kind: z.literal('opposes'),
    tilt: z.enum(tilts),
    /** Of a turn, degrees a second. */
    tiltDeg: z.number(),
    surfaces: z.array(z.enum(surfaceIds)).max(12),
    /** Rotors that the board would have push more. */
    rotors: z.array(z.enum(motorIds)).max(8).optional(),
  }),
  /** Some surface went along with a tilt, or stood still, instead of opposing it. */
  z.object({
    kind: z.literal('follows'),
    tilt: z.enum(tilts),
    tiltDeg: z.number(),
    wrong: z
      .array(z.enum([...surfaceIds, ...motorIds]))
      .min(1)
      .max(12),
  }),
  z.object({
    kind: z.literal('stick'),
    stick: z.enum(stickNames),
    channel: z.number().int().min(1).max(16),
    fromUs: z.number(),
    toUs: z.number(),
  }),
  z.object({
    kind: z.literal('flight'),
    verdict: z.enum(verdicts),
    /** Another seed ended otherwise. */
    luck: z.boolean(),
    seconds: z.number(),
  }),
  /** Held still in a gesture or a pose: what each chip felt, m/s^2, its own axes. */
  z.object({
    kind: z.literal('held'),
    as: z.enum(heldAs),
    chips: z.array(triple).min(1).max(2),
    seconds: z.number(),
  }),
  /** The board was seen to know which wing is down, mounted as its settings say. */
  z.object({
    kind: z.literal('mounted'),
    rollDeg: z.number(),
    pitchDeg: z.number(),
    yawDeg: z.number(),
    /** What the gestures say apart from a right-angle mounting, and what the board's tilt was off in the last of them. */
    fineDeg: z.number(),
    offDeg: z.number(),
  }),
  /** An accelerometer after it was taught, measured in an attitude that is none of the six. m/s^2 */
  z.object({
    kind: z.literal('accel'),
    chip: z.union([z.literal(1), z.literal(2)]),
    before: z.number(),
    left: z.number(),
  }),
  /** A gyro at rest: rad/s, rad/s per root Hz, rad/s per minute. */
  z.object({
    kind: z.literal('gyro-rest'),
    chip: z.union([z.literal(1), z.literal(2)]),
    bias: triple,
    density: z.number(),
    drift: z.number(),
    seconds: z.number(),
    verdict: z.enum(['good', 'noisy', 'warming', 'biased']),
  }),
  /** The craft's shake with motors running, rad/s rms at its worst. */
  z.object({
    kind: z.literal('shake'),
    rms: z.number(),
    throttle: z.number(),
    verdict: z.enum(['good', 'balance', 'soft-mount', 'filter']),
  }),
  /** In the attitude that is to be level the board was seen to say so, degrees. */
  z.object({ kind: z.literal('levelled'), rollDeg: z.number(), pitchDeg: z.number(), leftDeg: z.number() }),
  z.object({
    kind: z.literal('fix'),
    start: z.enum(['cold', 'warm', 'hot', 'waited']),
    seconds: z.number(),
    used: z.number(),
    accuracyM: z.number(),
  }),
  z.object({
    kind: z.literal('compass'),
    coverage: z.number(),
    residual: z.number(),
    strength: z.number(),
    headingErrorDeg: z.number(),
    lat: z.number(),
    lon: z.number(),
  }),
  z.object({
    kind: z.literal('compass-current'),
    perAmp: z.number(),
    mostA: z.number(),
    verdict: z.enum(['small', 'corrected', 'move-it']),
  }),
  /** Ends and middles of all sticks as they should be, with the noise of the worst and the deadband that hides it, us. */
  z.object({ kind: z.literal('stick-ends'), noiseUs: z.number(), deadbandUs: z.number() }),
  /** What came to the receiver's port: whole frames a second, and the share that was damaged. */
  z.object({
    kind: z.literal('receiver'),
    protocol: z.string().max(20),
    hz: z.number(),
    damaged: z.number(),
  }),
  /** The arming switch was put on: in peace, or where it must not arm; `good` where the board did as it should. */
  z.object({ kind: z.literal('arming'), tried: z.enum(armTries), good: z.boolean() }),
  /** A receiver whose transmitter was switched off on the bench. */
  z.object({
    kind: z.literal('silence'),
    does: z.enum(['stops', 'says-so', 'holds', 'makes-up']),
    noticed: z.boolean(),
    throttleUs: z.number(),
  }),
  /** What stood in a motor controller's memory when it was read last. */
  z.object({
    kind: z.literal('controller'),
    output: outputNumber,
    /** `loader`: it waits there for a whole firmware, and turns nothing. */
    state: z.enum(['answers', 'silent', 'pulses', 'loader']),
    product: z.string().max(30),
    version: z.string().max(20),
    values: z.record(z.string().max(20), z.union([z.number(), z.boolean(), z.string().max(20)])),
  }),
  /** Controllers that were taught both ends by pulses, and were heard to take them. */
  z.object({ kind: z.literal('ends-taught'), outputs: z.array(outputNumber).min(1).max(8) }),
  /** Where a trailing edge stood at pulses, by ruler or protractor: rad, down positive (a rudder: left). */
  z.object({
    kind: z.literal('throw'),
    surface: z.enum(surfaceIds),
    output: outputNumber,
    readings: z
      .array(
        z.object({
          us: z.number().min(500).max(2500),
          angle: z.number().min(-1.6).max(1.6),
          from: z.enum(['below', 'above']).optional(),
        }),
      )
      .min(1)
      .max(6),
  }),
  z.object({ kind: z.literal('volts'), boardV: z.number(), meterV: z.number() }),
  z.object({ kind: z.literal('amps'), boardA: z.number(), knownA: z.number() }),
  /** What the board counted, and what the charger put back. */
  z.object({ kind: z.literal('charge'), countedMah: z.number(), chargedMah: z.number() }),
  z.object({ kind: z.literal('sag'), ohms: z.number(), mostA: z.number() }),
  z.object({
    kind: z.literal('baro'),
    noiseM: z.number(),
    driftMPerMin: z.number(),
    verdict: z.enum(['good', 'noisy', 'drifts']),
  }),
  z.object({
    kind: z.literal('slipstream'),
    shiftM: z.number(),
    atCruiseM: z.number(),
    verdict: z.enum(['shielded', 'shield-it']),
  }),
  /** A rangefinder that was lifted by a measured height, m. */
  z.object({ kind: z.literal('range'), liftM: z.number(), offM: z.number() }),
  /** An optical flow sensor that saw the ground turn as the gyro did. */
  z.object({ kind: z.literal('flow'), scale: z.number(), quality: z.number() }),
  /** The tube of the airspeed under its cover and breathed into, Pa. */
  z.object({
    kind: z.literal('tube'),
    zeroPa: z.number(),
    peakPa: z.number(),
    verdict: z.enum(['whole', 'weak', 'blocked']),
  }),
  /** What the tube's speed has to be multiplied by, as flown circles show. */
  z.object({ kind: z.literal('tube-scale'), factor: z.number(), sigma: z.number() }),
  z.object({
    kind: z.literal('winds'),
    home: z.number().int().min(0),
    total: z.number().int().min(1),
  }),
  /** Walked away from home with the craft: how far, by what the nose was known, and that the arrow pointed back. */
  z.strictObject({
    kind: z.literal('home-arrow'),
    distanceM: z.number().min(0),
    headingFrom: z.enum(['nothing', 'compass', 'course']),
    satellites: z.number().int().min(0),
    good: z.boolean(),
  }),
  /** Arrivals in eight winds: how many of them came home, and how far from home the farthest touched down, m. */
  z.strictObject({
    kind: z.literal('arrival'),
    home: z.number().int().min(0),
    total: z.number().int().min(1),
    offM: z.number().min(0),
  }),
  /** The table of what may go wrong, flown: how its flights ended. */
  z.strictObject({
    kind: z.literal('fails'),
    home: z.number().int().min(0),
    down: z.number().int().min(0),
    lost: z.number().int().min(0),
  }),
  /** A transmitter that was switched off and on again: the board's true times, s from silence and from the first frame again. */
  z.strictObject({
    kind: z.literal('lost-drill'),
    noticedS: z.number(),
    actsS: z.number(),
    backS: z.number(),
    asDrawn: z.boolean(),
  }),
  /** The route, flown: points reached of all, whether it came home, how far from its lines it flew at most, m, and the battery left. */
  z.strictObject({
    kind: z.literal('route'),
    points: z.number().int().min(1),
    reached: z.number().int().min(0),
    home: z.boolean(),
    offM: z.number().min(0),
    leftShare: z.number().min(0).max(1),
  }),
  /** A person looked at it on the way to the strip, and found it well or not. */
  z.strictObject({
    kind: z.literal('looked'),
    line: z.enum(lookedAt),
    good: z.boolean(),
    /** What was measured, in the unit of `lookFigures`. */
    figure: z.number().min(0).max(1e9).optional(),
  }),
  /** The map of the reach, flown from places along its border: how often it was right, and how much of the square it holds. */
  z.strictObject({
    kind: z.literal('reach'),
    right: z.number().int().min(0),
    flown: z.number().int().min(1),
    share: z.number().min(0).max(1),
    batteryShare: z.number().min(0).max(1),
  }),
]);
export type Seen = z.infer<typeof seenSchema>;
export type SeenAs<K extends Seen['kind']> = Extract<Seen, { kind: K }>;
