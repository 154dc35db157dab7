import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import type { UnitId } from '#core/units/units.ts';
import { CHANNEL_COUNT } from './counts.ts';

type Effect = SettingEntry['effect'];

/** Collects entries in short notation, group by group. */
export class EntryBook {
  readonly entries: SettingEntry[] = [];
  group = '';

  number(
    key: string,
    label: string,
    unit: UnitId,
    range: readonly [min: number, max: number, fallback: number, step: number],
    meaning: string,
    effect: Effect = 'now',
    type: 'number' | 'integer' = 'number',
  ): void {
    const [min, max, fallback, step] = range;
    this.entries.push({
      key,
      group: this.group,
      label,
      meaning,
      type,
      unit,
      min,
      max,
      step,
      default: fallback,
      effect,
    });
  }

  flag(key: string, label: string, fallback: boolean, meaning: string, effect: Effect = 'now'): void {
    this.entries.push({
      key,
      group: this.group,
      label,
      meaning,
      type: 'flag',
      unit: 'none',
      default: fallback,
      effect,
    });
  }

  choice(
    key: string,
    label: string,
    options: readonly (readonly [value: string, label: string])[],
    fallback: string,
    meaning: string,
    effect: Effect = 'now',
  ): void {
    const choices = options.map(([value, name]) => ({ value, label: name }));
    this.entries.push({
      key,
      group: this.group,
      label,
      meaning,
      type: 'choice',
      unit: 'none',
      choices,
      default: fallback,
      effect,
    });
  }

  /** Words of a person's own, of up to `most` letters that can be typed in ASCII. */
  text(
    key: string,
    label: string,
    most: number,
    fallback: string,
    meaning: string,
    effect: Effect = 'now',
  ): void {
    this.entries.push({
      key,
      group: this.group,
      label,
      meaning,
      type: 'text',
      unit: 'none',
      max: most,
      default: fallback,
      effect,
    });
  }

  /** A receiver channel; 0 is none. */
  channel(key: string, label: string, fallback: number, meaning: string): void {
    this.number(key, label, 'none', [0, CHANNEL_COUNT, fallback, 1], meaning, 'now', 'integer');
  }
}
