import type { Health } from '../estimation/health.ts';

/** Flight modes, from least to most help. When several are asked for, the later one wins. */
export const modeIds = [
  'manual',
  'rate',
  'horizon',
  'level',
  'height',
  'as-armed',
  'from-home',
  'course',
  'hover',
  'position',
  'loiter',
  'route',
  'launch',
  'return',
] as const;
export type ModeId = (typeof modeIds)[number];

export const modeNames: Readonly<Record<ModeId, string>> = {
  manual: 'Manual',
  rate: 'Rate',
  horizon: 'Horizon',
  level: 'Level',
  height: 'Height hold',
  'as-armed': 'Forward as armed',
  'from-home': 'Forward from home',
  course: 'Course hold',
  hover: 'Hover here',
  position: 'Position hold',
  loiter: 'Loiter here',
  route: 'Route',
  launch: 'Hand launch',
  return: 'Return home',
};

/** A mode as a person reads it; one that is not known by the board's own word. */
export function modeName(mode: string): string {
  return Object.hasOwn(modeNames, mode) ? modeNames[mode as ModeId] : mode;
}

/** Modes that a switch can ask for: all but the bottom one. */
export type SwitchedMode = Exclude<ModeId, 'manual'>;
export const switchedModes: readonly SwitchedMode[] = modeIds.filter((m) => m !== 'manual');

/** What the modes need to know of the craft and its estimates. */
export interface ModeView {
  readonly rotorcraft: boolean;
  readonly attitude: Health;
  readonly height: Health;
  readonly position: Health;
  /** Heading known: by compass, or by flying. */
  readonly heading: boolean;
  readonly homeSet: boolean;
  readonly satellites: number;
  readonly satellitesToReturn: number;
  readonly routePoints: number;
  /** Some of the route's heights are above the ground; the board has the ground on its card. */
  readonly routeByGround: boolean;
  readonly groundKnown: boolean;
  readonly flown: boolean;
}

const wingsOnly: readonly ModeId[] = ['manual', 'course', 'launch'];
const rotorsOnly: readonly ModeId[] = ['hover', 'position', 'as-armed', 'from-home'];

/** Whether a kind of craft has this mode at all. */
export function ofKind(mode: ModeId, rotorcraft: boolean): boolean {
  return !(rotorcraft ? wingsOnly : rotorsOnly).includes(mode);
}

/** Null when a mode can be had now; otherwise why not, and what would give it. */
export function whyNot(mode: ModeId, v: ModeView): string | null {
  if (v.rotorcraft && wingsOnly.includes(mode)) return 'A craft that hovers has no such mode.';
  if (!v.rotorcraft && rotorsOnly.includes(mode))
    return mode === 'hover' || mode === 'position'
      ? 'Only a craft with rotors can do this; use Loiter here.'
      : 'Only a craft with rotors can do this: a wing flies where its nose points.';
  if (mode === 'manual' || mode === 'rate') return null;
  if (v.attitude === 'lost') return 'The board does not know which way is up.';
  if (mode === 'horizon' || mode === 'level') return null;
  if (mode === 'launch') return v.flown ? 'It is in the air already.' : null;
  if (v.height === 'lost') return 'Needs a height: neither barometer nor GNSS gives one.';
  if (mode === 'height') return null;
  if (mode === 'as-armed') return v.heading ? null : 'Needs a heading: fit and calibrate a compass.';
  if (v.position === 'lost') return 'Needs a position: there is no fix.';
  if (v.rotorcraft && !v.heading) return 'Needs a heading: fit and calibrate a compass.';
  if (mode === 'from-home' && !v.homeSet) return 'Needs a home: forward is away from it.';
  if (mode === 'route') {
    if (v.routePoints === 0) return 'The route has no points.';
    if (v.routeByGround && !v.groundKnown)
      return 'Its heights are above the ground, and the board has no ground on its card.';
    return v.homeSet ? null : 'Needs a home: the route is laid out from it.';
  }
  if (mode === 'return') {
    if (!v.homeSet) return 'Needs a home: none was stored at arming.';
    if (v.position === 'good' && v.satellites < v.satellitesToReturn)
      return `Needs ${v.satellitesToReturn} satellites; ${v.satellites} are used.`;
  }
  return null;
}

/** A band of one receiver channel that asks for something. Channel 0 is "no switch". */
export interface SwitchBand {
  readonly channel: number;
  readonly fromUs: number;
  readonly toUs: number;
}

/** A band that is on is left only so far beyond its edge, us. */
export const HYSTERESIS_US = 8;

/** Whether a band is on, with hysteresis so that a switch resting on its edge does not chatter. */
export class BandSwitch {
  on = false;
  constructor(
    private readonly band: SwitchBand,
    private readonly hysteresisUs = HYSTERESIS_US,
  ) {}

  step(channels: ArrayLike<number>): boolean {
    const { channel, fromUs, toUs } = this.band;
    if (channel < 1 || channel > channels.length) {
      this.on = false;
      return false;
    }
    const us = channels[channel - 1]!;
    const slack = this.on ? this.hysteresisUs : 0;
    this.on = us >= fromUs - slack && us <= toUs + slack;
    return this.on;
  }
}
