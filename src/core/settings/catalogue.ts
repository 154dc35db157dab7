import type { RefusalCode } from '../wire/refusals.ts';
import type { CrossRule, SettingEntry } from './catalogueSchema.ts';

export type SettingValue = number | string | boolean;
export type Values = Readonly<Record<string, SettingValue>>;

/** One setting refused, and why, in a sentence for a person. */
export interface Refusal {
  readonly key: string;
  readonly code: string;
  readonly why: string;
}

export class Catalogue {
  private readonly byKey: ReadonlyMap<string, SettingEntry>;

  constructor(
    readonly entries: readonly SettingEntry[],
    readonly rules: readonly CrossRule[],
  ) {
    this.byKey = new Map(entries.map((e) => [e.key, e]));
  }

  entry(key: string): SettingEntry | undefined {
    return this.byKey.get(key);
  }

  defaults(): Record<string, SettingValue> {
    return Object.fromEntries(this.entries.map((e) => [e.key, e.default]));
  }

  /** Null when the value is right for the entry; otherwise why not. */
  checkValue(key: string, value: unknown): Refusal | null {
    const entry = this.byKey.get(key);
    if (!entry) return { key, code: 'unknown-setting', why: `This board has no setting named ${key}.` };
    const fault = valueFault(entry, value);
    return fault && { key, ...fault };
  }

  /**
   * Every refusal of a whole set of values: each value by its entry, then the rules between settings. Kinds that are not
   * known here are the board's own business.
   */
  check(values: Values): Refusal[] {
    const refusals: Refusal[] = [];
    for (const [key, value] of Object.entries(values)) {
      if (this.byKey.get(key)?.type === 'other') continue;
      const refusal = this.checkValue(key, value);
      if (refusal) refusals.push(refusal);
    }
    for (const rule of this.rules) refusals.push(...checkRule(rule, values));
    return refusals;
  }
}

function valueFault(entry: SettingEntry, value: unknown): { code: RefusalCode; why: string } | null {
  const wrongType = (why: string) => ({ code: 'wrong-type', why }) as const;
  switch (entry.type) {
    case 'flag':
      return typeof value === 'boolean' ? null : wrongType(`${entry.label} is yes or no (true or false).`);
    case 'choice': {
      if (entry.choices?.some((c) => c.value === value)) return null;
      const known = entry.choices?.map((c) => c.value).join(', ');
      return {
        code: 'not-a-choice',
        why: `${entry.label} cannot be ${shown(value)}; it is one of ${known}.`,
      };
    }
    case 'text':
      if (typeof value !== 'string') return wrongType(`${entry.label} is words.`);
      return /^[ -~]*$/.test(value) && value.length <= (entry.max ?? 64)
        ? null
        : {
            code: 'out-of-range',
            why: `${entry.label} takes up to ${entry.max ?? 64} letters, digits and signs that any keyboard has.`,
          };
    case 'other':
      return wrongType(`${entry.label} is of a kind that cannot be set from here.`);
    default: {
      if (typeof value !== 'number' || !Number.isFinite(value))
        return wrongType(`${entry.label} needs a number.`);
      if (entry.type === 'integer' && !Number.isInteger(value))
        return wrongType(`${entry.label} needs a whole number.`);
      const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY } = entry;
      if (value < min || value > max) {
        const unit =
          entry.unit === 'none' || entry.unit === 'share' || entry.unit === 'count' ? '' : ` ${entry.unit}`;
        return {
          code: 'out-of-range',
          why: `${entry.label} cannot be ${shown(value)}; it goes from ${min} to ${max}${unit}.`,
        };
      }
      return null;
    }
  }
}

/** A value as it is told; of lists, tables and the like, only that it is one. */
function shown(value: unknown): string {
  if (typeof value === 'string') return `"${value.slice(0, 40)}"`;
  if (typeof value === 'object' && value !== null) return Array.isArray(value) ? 'a list' : 'a table';
  return String(value).slice(0, 40);
}

function checkRule(rule: CrossRule, values: Values): Refusal[] {
  if (rule.kind === 'below') {
    const a = values[rule.a];
    const b = values[rule.b];
    if (typeof a !== 'number' || typeof b !== 'number' || a + rule.gap <= b) return [];
    return [{ key: rule.a, code: 'rule', why: rule.why }];
  }
  const seen = new Map<SettingValue, string>();
  const refusals: Refusal[] = [];
  for (const key of rule.keys) {
    const value = values[key];
    if (value === undefined || value === rule.except) continue;
    const other = seen.get(value);
    if (other) refusals.push({ key, code: 'rule', why: `${rule.why} (also on ${other})` });
    else seen.set(value, key);
  }
  return refusals;
}

/** True when two setting values mean the same, allowing the rounding of a 32-bit float on the board. */
export function sameValue(a: SettingValue | undefined, b: SettingValue | undefined): boolean {
  if (typeof a === 'number' && typeof b === 'number') {
    return Math.abs(a - b) <= 1e-6 * Math.max(1, Math.abs(a), Math.abs(b));
  }
  return a === b;
}
