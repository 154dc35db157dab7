import * as z from 'zod';
import { type Health, healthSteps } from '../estimation/health.ts';
import { type SatelliteView, systems } from '../sensors/satellites.ts';

/**
 * Telemetry by its names. On the wire the fast groups are lists of numbers in the order of docs/link.md; here is the one
 * place that knows the order.
 */

const count = z.number().int().min(0).max(100_000);

/** Modes, states and actions are the board's own words; those that are not known are shown as they are. */
const statusSchema = z.object({
  mode: z.string().max(30),
  armed: z.boolean(),
  blockers: z.array(z.object({ id: z.string().max(30), why: z.string().max(300) })).max(24),
  lost: z.string().max(20),
  lostAction: z.string().max(30),
  restartNeeded: z.boolean(),
  benchAllowed: z.boolean(),
  /** Output the board is wiggling, 0 for none. */
  moving: count,
  /** Modes that cannot be had now, and why. */
  unavailable: z.array(z.object({ mode: z.string().max(30), why: z.string().max(300) })).max(16),
  /** Why the mode asked for is not flown; empty when it is. */
  refusal: z.string().max(300),
  /** Decisions made since power-on. */
  decisions: count,
  /** Print of the settings that it holds, as in `hello`; empty where a board does not say. */
  settings: z.string().max(16).default(''),
});
export type Status = z.infer<typeof statusSchema>;

/** Channels of a receiver that travel, us. */
const CHANNELS = 16;
/** Numbers of `sky` before the satellites. */
const SKY_HEAD = 8;
/** By what a heading is known, in the order of the link. */
const headingSources = ['nothing', 'compass', 'course'] as const;
const numbers = z.array(z.number()).max(64);
const health = (step: number): Health => healthSteps[step] ?? 'lost';

/** How finding gains stands, in the order of the link. */
export const tuneStates = ['off', 'roll', 'pitch', 'done', 'waits'] as const;

export interface ToldGains {
  readonly p: number;
  readonly i: number;
  readonly d: number;
  readonly forward: number;
  readonly lateS: number;
  readonly explained: number;
}

const foundGains = ([p, i, d, forward, lateS, explained]: readonly number[]): ToldGains | null =>
  p! > 0 ? { p: p!, i: i!, d: d!, forward: forward!, lateS: lateS!, explained: explained! } : null;

export const telemetrySchemas = {
  /** rad and rad/s, body axes */
  attitude: numbers.length(6).transform(([roll, pitch, yaw, rollRate, pitchRate, yawRate]) => ({
    roll: roll!,
    pitch: pitch!,
    yaw: yaw!,
    rollRate: rollRate!,
    pitchRate: pitchRate!,
    yawRate: yawRate!,
  })),
  /** Pulse of each output, us; 0 where nothing is sent. */
  outputs: numbers.transform((pulses) => ({ pulses })),
  /** What the board would give the rotor of each output at half throttle against how the craft lies now, 0..1; empty but on rotors. */
  answers: numbers.transform((shares) => ({ shares })),
  /** us; quality 0 to 1; age of the last frame, s */
  receiver: numbers.length(CHANNELS + 2).transform((v) => ({
    channels: v.slice(0, CHANNELS),
    quality: v[CHANNELS]!,
    frameAge: v[CHANNELS + 1]!,
  })),
  /** Of each motor controller that tells: output, speed (rpm), temperature (deg C), current (A). */
  motors: numbers
    .refine((v) => v.length % 4 === 0)
    .transform((v) =>
      Array.from({ length: v.length / 4 }, (_, i) => ({
        output: v[4 * i]!,
        rpm: v[4 * i + 1]!,
        degC: v[4 * i + 2]!,
        amps: v[4 * i + 3]!,
      })),
    ),
  power: numbers.length(4).transform(([supplyV, currentA, usedMah, servoRailV]) => ({
    supplyV: supplyV!,
    currentA: currentA!,
    usedMah: usedMah!,
    servoRailV: servoRailV!,
  })),
  /** How the battery's watch stands: 0 fine, 1 low, 2 empty; what is left, what the way home takes, what is to be left, mAh; null where that is not known. */
  charge: numbers.length(4).transform(([stage, left, need, reserve]) => ({
    stage: (['fine', 'low', 'empty'] as const)[stage!] ?? 'fine',
    leftMah: left! < 0 ? null : left!,
    needMah: need! < 0 ? null : need!,
    reserveMah: reserve!,
  })),
  /** deg; m; m/s; rad */
  navigation: numbers.length(10).transform((v) => ({
    satellites: v[0]!,
    hasFix: v[1]! > 0,
    latitude: v[2]!,
    longitude: v[3]!,
    height: v[4]!,
    groundSpeed: v[5]!,
    course: v[6]!,
    airspeed: v[7]!,
    homeSet: v[8]! > 0,
    homeDistance: v[9]!,
  })),
  /**
   * Home as the board has it: where the craft is from it (m), by how many satellites and how well it was known when it was set
   * (m, one sigma), where the nose points (rad) and by what that is known.
   */
  home: numbers.length(7).transform((v) => ({
    set: v[0]! > 0,
    north: v[1]!,
    east: v[2]!,
    satellites: v[3]!,
    accuracy: v[4]!,
    heading: v[5]!,
    headingFrom: headingSources[v[6]!] ?? 'nothing',
  })),
  /** Accuracy is one sigma: rad, m, m, m/s. Wind is where it blows to, m/s. */
  estimates: numbers.length(12).transform((v) => ({
    attitude: { health: health(v[0]!), accuracy: v[1]! },
    position: { health: health(v[2]!), accuracy: v[3]! },
    height: { health: health(v[4]!), accuracy: v[5]! },
    airspeed: { health: health(v[6]!), accuracy: v[7]! },
    wind: { health: health(v[8]!), north: v[9]!, east: v[10]! },
    headingKnown: v[11]! > 0,
  })),
  /**
   * What the GNSS receiver tells of itself and the sky: since it spoke and until its first fix, s from the board's start (below
   * nought: not yet); counts of its port; then system, number, elevation and azimuth (deg), strength (dB Hz) and use of each satellite.
   */
  sky: z
    .array(z.number())
    .min(SKY_HEAD)
    .max(SKY_HEAD + 6 * 40)
    .transform((v) => ({
      spokeS: v[0]!,
      fixS: v[1]!,
      used: v[2]!,
      hdop: v[3]!,
      bytes: v[4]!,
      sentences: v[5]!,
      faults: v[6]!,
      onTx: v[7]!,
      satellites: Array.from({ length: Math.floor((v.length - SKY_HEAD) / 6) }, (_, i): SatelliteView => {
        const at = SKY_HEAD + 6 * i;
        return {
          system: systems[v[at]!]?.letter ?? 'G',
          id: v[at + 1]!,
          elevationDeg: v[at + 2]!,
          azimuthDeg: v[at + 3]!,
          strength: v[at + 4]!,
          used: v[at + 5]! > 0,
        };
      }),
    })),
  /**
   * How the board itself is, all counted: samples of its gyro and barometer since it started, how late it told anything since it
   * last said so (ms), frames of the link that came damaged, streams that run, bytes of its log that are used and that it has; of
   * its outer bus the clock (kHz), the share of its time that its sensors ask for, readings and failed readings since it started.
   */
  services: numbers.length(11).transform((v) => ({
    gyroSamples: v[0]!,
    baroSamples: v[1]!,
    lateMs: v[2]!,
    framesDamaged: v[3]!,
    streams: v[4]!,
    logUsed: v[5]!,
    logRoom: v[6]!,
    busKhz: v[7]!,
    busShare: v[8]!,
    busReads: v[9]!,
    busErrors: v[10]!,
  })),
  /**
   * What came to the receiver's port since the board started: bytes (edges of a pulse train), whole frames, those of them that said
   * that the transmitter is not heard, damaged ones.
   */
  radio: numbers.length(4).transform((v) => ({
    heard: v[0]!,
    frames: v[1]!,
    refused: v[2]!,
    faults: v[3]!,
  })),
  /**
   * Gains that the board finds in flight: how it stands, seconds at the axis that it is at, then of roll and of pitch P, I, D, feed-forward, how
   * late a command turns (s) and what is explained (share); nothing found where P is nought.
   */
  tune: numbers.length(14).transform((v) => ({
    state: tuneStates[v[0]!] ?? 'off',
    seconds: v[1]!,
    roll: foundGains(v.slice(2, 8)),
    pitch: foundGains(v.slice(8, 14)),
  })),
  /** What level flight took of a wing since it last took off: seconds of it, then the mean command of roll and pitch, share of full. */
  trim: numbers.length(3).transform((v) => ({ seconds: v[0]!, roll: v[1]!, pitch: v[2]! })),
  /** Of each dial: how many times what is written it gives now. */
  dials: numbers.max(8).transform((times) => ({ times })),
  /** What stands over the pilot's picture: columns of its grid, the layout that is on, two bytes a cell, low first, row by row. */
  overlay: z
    .object({
      columns: z.number().int().min(0).max(100),
      layout: z.string().max(8),
      cells: z.instanceof(Uint8Array),
    })
    .transform(({ columns, layout, cells }) => ({
      columns,
      layout,
      cells: Uint16Array.from(
        { length: cells.length >> 1 },
        (_, i) => cells[2 * i]! | (cells[2 * i + 1]! << 8),
      ),
    })),
  /** What goes back to the transmitter: bytes in the last second, and the last frame of each kind as it went over the wire. */
  tells: z.object({ perS: z.number().min(0), frames: z.instanceof(Uint8Array) }),
  /** The video transmitter: told over a port of the board or not; what it is asked for (MHz, mW), and what it says that it does, nought where it says nothing. */
  video: numbers.length(5).transform(([byPort, askedMhz, askedMw, mhz, mw]) => ({
    byPort: byPort! > 0,
    askedMhz: askedMhz!,
    askedMw: askedMw!,
    told: mhz! > 0 ? { mhz: mhz!, mw: mw! } : null,
  })),
  /** What lamps, buzzer and motors tell now: the moment by the board's own word, three bytes a lamp, the tone (Hz, 0 for silence), whether motors sing. */
  signals: z.object({
    moment: z.string().max(30),
    lamps: z.instanceof(Uint8Array),
    toneHz: z.number(),
    motorsSing: z.boolean(),
  }),
  status: statusSchema,
} as const;

export type TelemetryGroup = keyof typeof telemetrySchemas;
/** What each group says, decoded. */
export type Telemetry = { readonly [G in TelemetryGroup]: z.output<(typeof telemetrySchemas)[G]> };

export const telemetryGroups = Object.keys(telemetrySchemas) as readonly TelemetryGroup[];
export const isGroup = (group: string): group is TelemetryGroup => Object.hasOwn(telemetrySchemas, group);
