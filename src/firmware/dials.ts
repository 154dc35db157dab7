import {
  DIALS,
  type DialSettings,
  FlickSteps,
  keysMoved,
  nameOfTarget,
  timesAt,
} from '#core/control/dials.ts';
import { clamp } from '#core/math/scalar.ts';
import { CONTROL_SETS } from './catalogue/counts.ts';
import { pfadCatalogue } from './catalogue.ts';
import type { Config, ControlSet } from './config.ts';

/** A number of the configuration that a dial may move. */
interface Slot {
  readonly holder: Record<string, number>;
  readonly field: string;
  readonly written: number;
  readonly least: number;
  readonly most: number;
}

interface Moved {
  readonly dial: DialSettings;
  readonly flicks: FlickSteps | null;
  readonly slots: readonly Slot[];
}

/** Less than this is the dial's own noise, share. */
const NOISE = 0.004;
const gainFields = { p: 'proportional', i: 'integral', d: 'derivative', forward: 'feedForward' } as const;

/**
 * Settings that the pilot moves in flight: each dial multiplies what is written, within its span and what the setting takes. A lost link
 * leaves them where they are; what is written is not changed.
 */
export class Dials {
  /** How many times what is written each dial gives now. */
  readonly times = new Float64Array(DIALS).fill(1);
  private readonly all: readonly Moved[];

  constructor(c: Config) {
    this.all = c.dials.map((dial) => ({
      dial,
      flicks: dial.by === 'switch' ? new FlickSteps(dial.span, dial.step) : null,
      slots: Array.from({ length: CONTROL_SETS }, (_, i) => keysMoved(dial, i + 1))
        .flat()
        .filter((key, i, keys) => keys.indexOf(key) === i)
        .map((key) => slotOf(key, c)),
    }));
  }

  /** @param channels us */
  step(channels: Float64Array): void {
    for (let i = 0; i < this.all.length; i++) {
      const { dial, flicks, slots } = this.all[i]!;
      const us = channels[dial.channel - 1]!;
      if (!(us > 800 && us < 2200)) continue;
      const k = dial.dial - 1;
      let times: number;
      if (flicks) {
        if (!flicks.step(us)) continue;
        times = flicks.times;
      } else {
        times = timesAt(dial.span, us);
        if (Math.abs(times / this.times[k]! - 1) < NOISE) continue;
      }
      this.times[k] = times;
      for (let j = 0; j < slots.length; j++) {
        const s = slots[j]!;
        s.holder[s.field] = clamp(s.written * times, s.least, s.most);
      }
    }
  }

  /** What they give, for the pilot to read; empty where all is as written. */
  get said(): string {
    return this.all
      .filter(({ dial }) => Math.abs(this.times[dial.dial - 1]! - 1) > 0.01)
      .map(
        ({ dial }) =>
          `${nameOfTarget(dial.moves)} at ${this.times[dial.dial - 1]!.toFixed(2)} times what is written`,
      )
      .join(', ');
  }
}

/** Where a setting stands in the configuration. Gains and limits are objects of this configuration alone, so that they may be moved. */
function slotOf(key: string, c: Config): Slot {
  const { min, max } = pfadCatalogue.entry(key)!;
  const [, set, plain] = /^(?:set\.(\d)\.)?(.+)$/.exec(key)!;
  const of = c.sets[Number(set ?? 1) - 1]!;
  const [place, field] = placeOf(plain!, of, c);
  const holder = place as Record<string, number>;
  return {
    holder,
    field,
    written: holder[field]!,
    least: min!,
    most: max!,
  };
}

function placeOf(key: string, set: ControlSet, c: Config): readonly [holder: unknown, field: string] {
  const [group, name, part] = key.split('.') as [string, string, string?];
  if (group === 'rate') return [set[name as 'roll'], gainFields[part as keyof typeof gainFields]];
  if (key === 'level.time') return [set, 'levelTime'];
  if (key === 'nav.period') return [c, 'period'];
  return [group === 'hover' ? c.hover : c.energy, name];
}
