import { type Catalogue, type SettingValue, sameValue, type Values } from '../catalogue.ts';
import { choicePairs, convert, type Direction, onStep } from './across.ts';
import { pfad28to30 } from './pfad30.ts';
import { pfad30to31 } from './pfad31.ts';
import { pfad31to32 } from './pfad32.ts';
import { pfad31to32rc } from './pfad32rc.ts';
import { filled, type MigrationRule, type MigrationStep, slotsOf } from './rules.ts';

/** All steps there are, oldest first. A version has one that it comes from; a candidate may be one that nothing came of. */
export const migrationSteps: readonly MigrationStep[] = [pfad28to30, pfad30to31, pfad31to32rc, pfad31to32];

export interface WalkedStep {
  readonly step: MigrationStep;
  readonly direction: Direction;
}

/** The steps from one version to another, in order; null when one of the two is not known. */
export function pathBetween(from: string, to: string): readonly WalkedStep[] | null {
  const there = toRoot(from);
  const back = toRoot(to);
  if (!there || !back) return null;
  // What both come by need not be walked twice.
  while (there.length > 0 && there.at(-1) === back.at(-1)) {
    there.pop();
    back.pop();
  }
  return [
    ...there.map((step) => ({ step, direction: 'down' as const })),
    ...back.reverse().map((step) => ({ step, direction: 'up' as const })),
  ];
}

/** The steps that a version came by, newest first; null for one that is not known. */
function toRoot(version: string): MigrationStep[] | null {
  const steps: MigrationStep[] = [];
  let at = version;
  for (;;) {
    const step = migrationSteps.find((s) => s.to === at);
    if (!step) return at === migrationSteps[0]!.from ? steps : null;
    steps.push(step);
    at = step.from;
  }
}

export interface KeyValue {
  readonly key: string;
  readonly value: SettingValue;
  /** As the version keeps it that the setting is of. */
  readonly unit?: string;
}

/** A question that only a person can answer; the first option is taken until they do. */
interface Decision {
  readonly id: string;
  readonly options: readonly string[];
  readonly chosen: number;
}

/** What became of a setting, or of some that belong together. */
export interface MigrationItem {
  readonly kind: 'kept' | 'renamed' | 'converted' | 'dropped' | 'new' | 'decide';
  readonly from: readonly KeyValue[];
  readonly to: readonly KeyValue[];
  readonly formula?: string;
  readonly why?: string;
  readonly decision?: Decision;
}

export interface MigrationReport {
  readonly from: string;
  readonly to: string;
  readonly items: readonly MigrationItem[];
  /** What the board of the new version would be given; every value is one that it accepts. */
  readonly values: Values;
}

/** One value on its way, with where it came from. */
interface Cell {
  readonly value: SettingValue;
  readonly origins: readonly KeyValue[];
  readonly formulas: readonly string[];
  readonly whys: readonly string[];
  readonly decision?: Decision;
}

interface Walk {
  cells: Map<string, Cell>;
  readonly items: MigrationItem[];
  readonly chosen: Readonly<Record<string, number>>;
}

/**
 * Carries settings from one firmware version to another by meaning.
 * @param target catalogue of the version to go to
 * @param chosen by decision: which option a person took
 */
export function migrate(
  values: Values,
  from: string,
  to: string,
  path: readonly WalkedStep[],
  source: Catalogue,
  target: Catalogue,
  chosen: Readonly<Record<string, number>> = {},
): MigrationReport {
  const walk: Walk = { cells: new Map(), items: [], chosen };
  for (const [key, value] of Object.entries(values)) {
    if (source.checkValue(key, value) === null)
      walk.cells.set(key, { value, origins: [{ key, value }], formulas: [], whys: [] });
    else
      walk.items.push({
        kind: 'dropped',
        from: [{ key, value }],
        to: [],
        why: source.entry(key)
          ? `Pfad ${from} itself would refuse this value.`
          : `Pfad ${from} has no setting of this name.`,
      });
  }
  for (const { step, direction } of path) {
    // Backwards in backward order, so that each rule finds the keys that it names.
    const rules = direction === 'up' ? step.rules : [...step.rules].reverse();
    for (const rule of rules) applyRule(walk, rule, step, direction);
  }
  const result: Record<string, SettingValue> = {};
  for (const [key, cell] of walk.cells) {
    const item = settle(key, cell, target, chosen);
    walk.items.push(item);
    for (const k of item.to) result[k.key] = k.value;
  }
  for (const entry of target.entries) {
    if (entry.key in result) continue;
    // A part of the settings stays a part: what the source never had a say on is new only when the target introduces it.
    const why = newIn(entry.key, path);
    if (why === null) continue;
    walk.items.push({ kind: 'new', from: [], to: [{ key: entry.key, value: entry.default }], why });
    result[entry.key] = entry.default;
  }
  const items = walk.items.map((i) => ({
    ...i,
    from: i.from.map((k) => withUnit(k, source)),
    to: i.to.map((k) => withUnit(k, target)),
  }));
  return { from, to, items, values: result };
}

function withUnit(k: KeyValue, catalogue: Catalogue): KeyValue {
  const unit = catalogue.entry(k.key)?.unit;
  return unit === undefined || unit === 'none' ? k : { ...k, unit };
}

/** Why a setting is new at the end of the path; null when it is not. */
export function newIn(key: string, path: readonly WalkedStep[]): string | null {
  for (const { step, direction } of path) {
    for (const rule of step.rules) {
      if (direction === 'up' && rule.kind === 'added' && rule.keys.some((k) => slotsOf(k, key)))
        return rule.why;
      if (direction === 'up' && rule.kind === 'introduced' && rule.entry.key === key) return rule.why;
      if (direction === 'down' && rule.kind === 'dropped' && rule.entry.key === key)
        return `Only older versions have it. ${rule.why}`;
    }
  }
  return null;
}

function applyRule(walk: Walk, rule: MigrationRule, step: MigrationStep, direction: Direction): void {
  const up = direction === 'up';
  switch (rule.kind) {
    case 'rename':
      move(walk, up ? rule.old : rule.new, up ? rule.new : rule.old, (cell) => cell);
      return;
    case 'scale':
    case 'inverse':
    case 'share': {
      const parts = rule.kind === 'share' ? (walk.cells.get(rule.by)?.value as number | undefined) : 1;
      const [here, there] = up ? [rule.old, rule.new] : [rule.new, rule.old];
      move(walk, here, there, (cell) => {
        if (rule.kind === 'share' && parts === undefined) return null;
        const value = convert(rule, cell.value as number, direction, parts!);
        const formula = up ? rule.formula : `${rule.formula}, backwards`;
        return { ...cell, value, formulas: [...cell.formulas, formula], whys: [...cell.whys, rule.why] };
      });
      return;
    }
    case 'choices':
      changeChoice(walk, rule, step, direction);
      return;
    case 'split':
      if (up) divide(walk, rule);
      else unite(walk, rule, step);
      return;
    case 'unfold':
      if (up) unfold(walk, rule);
      else fold(walk, rule, step);
      return;
    case 'dropped':
      if (up)
        dropKeys(
          walk,
          (k) => k === rule.entry.key,
          () => rule.why,
        );
      return;
    case 'added':
      if (!up)
        dropKeys(
          walk,
          (k) => rule.keys.some((p) => slotsOf(p, k)),
          () => `Pfad ${step.from} has no such setting; what it does is lost.`,
        );
      return;
    case 'introduced':
      if (!up)
        dropKeys(
          walk,
          (k) => k === rule.entry.key,
          () => `Pfad ${step.from} has no such setting; what it does is lost.`,
        );
      return;
    case 'redefault':
      redefault(walk, rule, direction);
      return;
  }
}

/** Moves every cell that fits a pattern; one for which `change` gives null is dropped. */
function move(walk: Walk, here: string, there: string, change: (cell: Cell) => Cell | null): void {
  const moved = new Map<string, Cell>();
  for (const [key, cell] of walk.cells) {
    const slots = slotsOf(here, key);
    if (!slots) {
      moved.set(key, cell);
      continue;
    }
    const next = change(cell);
    if (next) moved.set(filled(there, slots), next);
    else
      walk.items.push({
        kind: 'dropped',
        from: cell.origins,
        to: [],
        why: 'It cannot be converted without another setting, which is missing here.',
      });
  }
  walk.cells = moved;
}

function dropKeys(walk: Walk, gone: (key: string) => boolean, why: (key: string) => string): void {
  for (const [key, cell] of [...walk.cells]) {
    if (!gone(key)) continue;
    walk.cells.delete(key);
    if (cell.origins.length > 0)
      walk.items.push({ kind: 'dropped', from: cell.origins, to: [], why: why(key) });
  }
}

function chosenOf(walk: Walk, id: string, options: readonly string[]): Decision {
  const wanted = walk.chosen[id] ?? 0;
  return { id, options, chosen: wanted >= 0 && wanted < options.length ? wanted : 0 };
}

function changeChoice(
  walk: Walk,
  rule: Extract<MigrationRule, { kind: 'choices' }>,
  step: MigrationStep,
  direction: Direction,
): void {
  const up = direction === 'up';
  const [here, there] = up ? [rule.old, rule.new] : [rule.new, rule.old];
  const pairs = choicePairs(rule, direction);
  move(walk, here, there, (cell) => {
    const match = pairs.find(([value]) => value === cell.value);
    if (match) {
      const same = match[0] === match[1];
      return same
        ? cell
        : { ...cell, value: match[1], formulas: [...cell.formulas, 'the same choice by its new name'] };
    }
    const options = pairs.map(([, value]) => String(value));
    const decision = chosenOf(walk, there, options);
    const version = up ? step.to : step.from;
    const why = `Pfad ${version} has no "${String(cell.value)}" here. ${rule.why ?? ''}`.trim();
    return { ...cell, value: pairs[decision.chosen]![1], whys: [...cell.whys, why], decision };
  });
}

function divide(walk: Walk, rule: Extract<MigrationRule, { kind: 'split' }>): void {
  const cell = walk.cells.get(rule.old);
  if (!cell) return;
  walk.cells.delete(rule.old);
  for (const key of rule.new)
    walk.cells.set(key, {
      ...cell,
      whys: [...cell.whys, rule.why],
      formulas: [...cell.formulas, 'the same for each'],
    });
}

function unite(walk: Walk, rule: Extract<MigrationRule, { kind: 'split' }>, step: MigrationStep): void {
  const cells = rule.new.flatMap((key) => {
    const cell = walk.cells.get(key);
    walk.cells.delete(key);
    return cell ? [cell] : [];
  });
  if (cells.length === 0) return;
  const origins = cells.flatMap((c) => c.origins);
  const distinct = [...new Set(cells.map((c) => String(c.value)))];
  if (distinct.length === 1) {
    walk.cells.set(rule.old, { ...cells[0]!, origins, formulas: ['one for all'], whys: [rule.why] });
    return;
  }
  const decision = chosenOf(walk, rule.old, distinct);
  const value = cells.find((c) => String(c.value) === distinct[decision.chosen])!.value;
  walk.cells.set(rule.old, {
    value,
    origins,
    formulas: [],
    whys: [`Pfad ${step.from} has one value for all of them. ${rule.why}`],
    decision,
  });
}

function unfold(walk: Walk, rule: Extract<MigrationRule, { kind: 'unfold' }>): void {
  const cell = walk.cells.get(rule.entry.key);
  if (!cell) return;
  walk.cells.delete(rule.entry.key);
  for (const [key, value] of Object.entries(rule.map[cell.value as string] ?? {}))
    walk.cells.set(key, { ...cell, value, formulas: [`by "${String(cell.value)}"`], whys: [rule.why] });
}

function fold(walk: Walk, rule: Extract<MigrationRule, { kind: 'unfold' }>, step: MigrationStep): void {
  const keys = Object.keys(Object.values(rule.map)[0]!);
  const cells = keys.flatMap((k) => {
    const cell = walk.cells.get(k);
    return cell ? [[k, cell] as const] : [];
  });
  for (const k of keys) walk.cells.delete(k);
  if (cells.length === 0) return;
  const origins = cells.flatMap(([, c]) => c.origins);
  const whole = cells.length === keys.length;
  const match = Object.entries(rule.map).find(
    ([, wanted]) => whole && cells.every(([k, c]) => wanted[k] === c.value),
  );
  if (match) {
    walk.cells.set(rule.entry.key, { value: match[0], origins, formulas: ['one for all'], whys: [rule.why] });
    return;
  }
  const options = Object.keys(rule.map);
  const decision = chosenOf(walk, rule.entry.key, options);
  walk.cells.set(rule.entry.key, {
    value: options[decision.chosen]!,
    origins,
    formulas: [],
    whys: [`Pfad ${step.from} knows none of these orders but its own. ${rule.why}`],
    decision,
  });
}

/** A setting still at the old default: keep what flew so far, or take what the new version begins with. */
function redefault(
  walk: Walk,
  rule: Extract<MigrationRule, { kind: 'redefault' }>,
  direction: Direction,
): void {
  if (direction === 'down') return;
  const cell = walk.cells.get(rule.key);
  if (!cell || !sameValue(cell.value, rule.was)) return;
  const decision = chosenOf(walk, rule.key, [`keep ${String(rule.was)}`, `take ${String(rule.now)}`]);
  walk.cells.set(rule.key, {
    ...cell,
    value: decision.chosen === 0 ? rule.was : rule.now,
    whys: [...cell.whys, rule.why],
    decision,
  });
}

/** What a cell comes to on the target, which may want it rounded, or not take it at all. */
function settle(
  key: string,
  cell: Cell,
  target: Catalogue,
  chosen: Readonly<Record<string, number>>,
): MigrationItem {
  const entry = target.entry(key);
  if (!entry)
    return { kind: 'dropped', from: cell.origins, to: [], why: 'The new version has no such setting.' };
  let value = cell.value;
  if (typeof value === 'number' && cell.formulas.length > 0)
    value = entry.type === 'integer' ? Math.round(value) : onStep(value, { step: 1e-6 }, Math.round);
  let { decision } = cell;
  const whys = [...cell.whys];
  if (target.checkValue(key, value) !== null) {
    const nearest = nearestAccepted(entry, value);
    const options = [`the nearest, ${String(nearest)}`, `the default, ${String(entry.default)}`];
    const wanted = chosen[key] ?? 0;
    decision = { id: key, options, chosen: wanted === 1 ? 1 : 0 };
    whys.push(`${String(value)} is out of range there: ${target.checkValue(key, value)!.why}`);
    value = decision.chosen === 1 ? entry.default : nearest;
  }
  const to = [{ key, value }];
  const why = whys.length > 0 ? { why: [...new Set(whys)].join(' ') } : {};
  const formula = cell.formulas.length > 0 ? { formula: cell.formulas.join('; ') } : {};
  if (decision) return { kind: 'decide', from: cell.origins, to, ...formula, ...why, decision };
  const origin = cell.origins[0]!;
  if (cell.formulas.length > 0) return { kind: 'converted', from: cell.origins, to, ...formula, ...why };
  return { kind: origin.key === key ? 'kept' : 'renamed', from: cell.origins, to };
}

function nearestAccepted(
  entry: NonNullable<ReturnType<Catalogue['entry']>>,
  value: SettingValue,
): SettingValue {
  if (typeof value !== 'number' || entry.min === undefined || entry.max === undefined) return entry.default;
  return Math.min(entry.max, Math.max(entry.min, value));
}
