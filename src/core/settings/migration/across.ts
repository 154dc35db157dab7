import { Catalogue } from '../catalogue.ts';
import type { CrossRule, SettingEntry } from '../catalogueSchema.ts';
import { filled, type Kept, type MigrationRule, type MigrationStep, slotsOf } from './rules.ts';

/** Whether a step is walked towards the newer or the older version. */
export type Direction = 'up' | 'down';

/** The catalogue of the version on the other side of a step, made from this side's. */
export function catalogueAcross(catalogue: Catalogue, step: MigrationStep, direction: Direction): Catalogue {
  const keys = new Map<string, string>();
  const entries: SettingEntry[] = [];
  for (const entry of catalogue.entries) {
    const made = entriesAcross(entry, step, direction, catalogue);
    if (made.length > 0) keys.set(entry.key, made[0]!.key);
    for (const e of made) if (!entries.some((x) => x.key === e.key)) entries.push(e);
  }
  for (const rule of step.rules) {
    if (direction === 'up' && rule.kind === 'introduced') entries.push(rule.entry);
    if (direction === 'up') continue;
    if (rule.kind === 'unfold') entries.push(rule.entry);
    if (rule.kind === 'dropped') {
      const at = rule.behind === undefined ? -1 : entries.findIndex((e) => e.key === rule.behind);
      entries.splice(at < 0 ? entries.length : at + 1, 0, rule.entry);
    }
  }
  return new Catalogue(
    grouped(entries),
    catalogue.rules.flatMap((r) => ruleAcross(r, keys, catalogue, entries)),
  );
}

/** Entries of one group stand together, groups in the order of their first entry. */
function grouped(entries: readonly SettingEntry[]): SettingEntry[] {
  const groups = new Map<string, SettingEntry[]>();
  for (const e of entries) {
    const list = groups.get(e.group);
    if (list) list.push(e);
    else groups.set(e.group, [e]);
  }
  return [...groups.values()].flat();
}

function entriesAcross(
  entry: SettingEntry,
  step: MigrationStep,
  direction: Direction,
  catalogue: Catalogue,
): SettingEntry[] {
  const up = direction === 'up';
  let made = entry;
  for (const rule of step.rules) {
    switch (rule.kind) {
      case 'rename': {
        const [here, there] = up ? [rule.old, rule.new] : [rule.new, rule.old];
        const slots = slotsOf(here, entry.key);
        if (slots) made = { ...made, key: filled(there, slots) };
        break;
      }
      case 'scale':
      case 'inverse':
      case 'share': {
        const [here, there] = up ? [rule.old, rule.new] : [rule.new, rule.old];
        const slots = slotsOf(here, entry.key);
        if (!slots) break;
        const by = rule.kind === 'share' ? catalogue.entry(rule.by) : undefined;
        made = converted(made, filled(there, slots), rule.kept, (x, end) => {
          // The range of a share holds for any number of parts.
          const parts = by && (end === 'min' ? by.min! : end === 'max' ? by.max! : (by.default as number));
          return convert(rule, x, direction, parts ?? 1);
        });
        break;
      }
      case 'choices': {
        const [here, there] = up ? [rule.old, rule.new] : [rule.new, rule.old];
        const slots = slotsOf(here, entry.key);
        if (slots) made = withChoices(made, filled(there, slots), rule, direction);
        break;
      }
      case 'split':
        if (up && entry.key === rule.old) return rule.new.map((key) => ({ ...made, key }));
        if (!up && rule.new.includes(entry.key))
          return entry.key === rule.new[0] ? [{ ...made, ...rule.was, key: rule.old }] : [];
        break;
      case 'unfold':
        if (!up && Object.keys(Object.values(rule.map)[0]!).includes(entry.key)) return [];
        break;
      case 'dropped':
        if (up && entry.key === rule.entry.key) return [];
        break;
      case 'added':
        if (!up && rule.keys.some((k) => slotsOf(k, entry.key))) return [];
        break;
      case 'introduced':
        if (!up && entry.key === rule.entry.key) return [];
        break;
      case 'redefault':
        if (entry.key === rule.key) made = { ...made, default: up ? rule.now : rule.was };
        break;
    }
  }
  return [made];
}

type Numeric = Extract<MigrationRule, { kind: 'scale' | 'inverse' | 'share' }>;

/** A number taken across a rule. @param parts value of the setting that a share goes by */
export function convert(rule: Numeric, value: number, direction: Direction, parts: number): number {
  switch (rule.kind) {
    case 'scale':
      return direction === 'up' ? value * rule.factor : value / rule.factor;
    case 'inverse':
      return rule.product / value;
    case 'share':
      return direction === 'up' ? value / parts : value * parts;
  }
}

function converted(
  entry: SettingEntry,
  key: string,
  kept: Kept,
  to: (x: number, end: 'min' | 'max' | 'default') => number,
): SettingEntry {
  const ends = [to(entry.min!, 'min'), to(entry.max!, 'max')].sort((a, b) => a - b) as [number, number];
  const [min, max] = [onStep(ends[0], kept, Math.ceil), onStep(ends[1], kept, Math.floor)];
  const middle = onStep(to(entry.default as number, 'default'), kept, Math.round);
  return {
    ...entry,
    key,
    unit: kept.unit,
    type: kept.integer ? 'integer' : 'number',
    min,
    max,
    step: kept.step,
    default: Math.min(max, Math.max(min, middle)),
  };
}

/** A number on the step of whoever keeps it, free of the dust of binary fractions. */
export function onStep(x: number, kept: Pick<Kept, 'step'>, to: (x: number) => number): number {
  const steps = x / kept.step;
  const near = Math.round(steps);
  return Number(((Math.abs(steps - near) < 1e-6 ? near : to(steps)) * kept.step).toPrecision(10));
}

/** What each choice here is called there. */
export function choicePairs(
  rule: Extract<MigrationRule, { kind: 'choices' }>,
  direction: Direction,
): readonly (readonly [here: string | boolean, there: string | boolean])[] {
  return direction === 'up' ? rule.map : rule.map.map(([old, now]) => [now, old]);
}

function withChoices(
  entry: SettingEntry,
  key: string,
  rule: Extract<MigrationRule, { kind: 'choices' }>,
  direction: Direction,
): SettingEntry {
  const pairs = choicePairs(rule, direction);
  const fallback = (pairs.find(([here]) => here === entry.default) ?? pairs[0]!)[1];
  const labelOf = (here: string | boolean) =>
    entry.choices?.find((c) => c.value === here)?.label ?? String(here);
  const { choices: _, ...rest } = entry;
  const common = { ...rest, key, default: fallback };
  if (pairs.every(([, there]) => typeof there === 'boolean')) return { ...common, type: 'flag' };
  const choices = pairs.map(([here, there]) => ({ value: String(there), label: labelOf(here) }));
  return { ...common, type: 'choice', choices };
}

/** A rule between settings, where both versions keep them in the same way: a gap means the same there. */
function ruleAcross(
  rule: CrossRule,
  keys: ReadonlyMap<string, string>,
  here: Catalogue,
  there: readonly SettingEntry[],
): CrossRule[] {
  const now = (key: string) => {
    const was = here.entry(key);
    const is = there.find((e) => e.key === keys.get(key));
    const same = was && is && was.unit === is.unit && was.min === is.min && was.max === is.max;
    return same ? is.key : null;
  };
  if (rule.kind === 'different') {
    const all = rule.keys.flatMap((k) => now(k) ?? []);
    return all.length === rule.keys.length ? [{ ...rule, keys: all }] : [];
  }
  const [a, b] = [now(rule.a), now(rule.b)];
  return a && b ? [{ ...rule, a, b }] : [];
}
