import { isRotorKind } from '../airframe/actuators.ts';
import { type ModeId, modeNames, ofKind, switchedModes } from '../modes/modes.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { UnitSystem } from '../units/units.ts';
import type { Outgrown } from './figure.ts';
import { type AlarmId, alarmIds, type ItemId, itemIds, type LayoutId, layoutIds, placeKey } from './items.ts';
import { type VideoId, type VideoSystem, videoIds, videoSystems } from './videoSystems.ts';

interface Alarm {
  /** SI; 0 for none. */
  readonly at: number;
  /** So much on the right side of the mark until it is over. */
  readonly back: number;
}

/** An overlay as its settings make it. */
export interface OverlayConfig {
  /** null where the craft has no picture. */
  readonly system: VideoSystem | null;
  /** Channel of the switch between layouts; 0 for the first one only. */
  readonly channel: number;
  readonly units: UnitSystem;
  readonly outgrown: Outgrown;
  readonly decimals: Readonly<Record<'volts' | 'current' | 'speed' | 'climb', number>>;
  readonly alarms: Readonly<Record<AlarmId, Alarm>>;
  /** Cell of each item; below 0 for those that are not shown. */
  readonly layouts: Readonly<Record<LayoutId, Readonly<Record<ItemId, number>>>>;
  readonly words: readonly [string, string, string];
  /** Names of the modes that this craft may come into. */
  readonly modes: readonly string[];
}

/** @param values complete and checked against the catalogue */
export function overlayConfigOf(values: Values): OverlayConfig {
  const { number: n, choice: s } = settingsOf(values);
  const system = videoIds.find((id: VideoId) => id === s('overlay.system'));
  const alarm = (id: AlarmId): Alarm => ({
    at: n(`overlay.alarm.${id}.at`),
    back: n(`overlay.alarm.${id}.back`),
  });
  const layout = (id: LayoutId) =>
    Object.fromEntries(itemIds.map((item) => [item, n(placeKey(id, item))])) as Record<ItemId, number>;
  return {
    system: system ? videoSystems[system] : null,
    channel: n('overlay.channel'),
    units: s('overlay.units') as UnitSystem,
    outgrown: s('overlay.outgrown') as Outgrown,
    decimals: {
      volts: n('overlay.decimals.volts'),
      current: n('overlay.decimals.current'),
      speed: n('overlay.decimals.speed'),
      climb: n('overlay.decimals.climb'),
    },
    alarms: Object.fromEntries(alarmIds.map((id) => [id, alarm(id)])) as OverlayConfig['alarms'],
    layouts: Object.fromEntries(layoutIds.map((id) => [id, layout(id)])) as OverlayConfig['layouts'],
    words: [s('overlay.words.1'), s('overlay.words.2'), s('overlay.words.3')],
    modes: modesOf(values),
  };
}

/** Those that a switch asks for, the one without a switch, and what a lost link or a low battery brings. */
function modesOf(values: Values): readonly string[] {
  const { number: n, choice: s } = settingsOf(values);
  const rotors = isRotorKind(s('craft.kind'));
  const asked = switchedModes.filter((m) => n(`mode.${m}.channel`) > 0);
  const byItself: readonly ModeId[] = ['manual', 'level', 'return'];
  return [...new Set([...byItself, ...asked])].filter((m) => ofKind(m, rotors)).map((m) => modeNames[m]);
}

/** The layout for a pulse of the switch between them, in thirds of its travel. */
export const layoutAt = (us: number): LayoutId => (us < 1300 ? 'a' : us < 1700 ? 'b' : 'c');
