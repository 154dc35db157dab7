import { parse, TomlError } from 'smol-toml';
import type { Catalogue, SettingValue, Values } from './catalogue.ts';

const MAX_TEXT = 1_000_000;
/** A setting's key has two or three parts; a text of deeper ones is none of settings. */
const MOST_PARTS = 12;
const MOST_FAULTS = 100;

export interface TextFault {
  /** 1-based. */
  readonly line: number;
  readonly why: string;
}
export type ParsedText =
  | { ok: true; values: Record<string, SettingValue> }
  | { ok: false; faults: TextFault[] };

/** Settings as TOML, one dotted key a line, grouped as the board groups them, unit as comment. */
export function settingsToToml(catalogue: Catalogue, values: Values, title: string): string {
  const lines = [`# Settings of ${title.replace(/[\r\n]+/g, ' ')}`];
  let group = '';
  for (const entry of catalogue.entries) {
    const value = values[entry.key];
    if (value === undefined) continue;
    if (entry.group !== group) {
      group = entry.group;
      lines.push('', `# ${group}`);
    }
    const unit =
      entry.unit === 'none' || entry.unit === 'share' || entry.unit === 'count' ? '' : ` # ${entry.unit}`;
    const line = `${entry.key} = ${literal(value)}`;
    lines.push(entry.type === 'other' ? `# ${line} (of a kind that is set elsewhere)` : `${line}${unit}`);
  }
  return `${lines.join('\n')}\n`;
}

function literal(value: SettingValue): string {
  return typeof value === 'string' ? JSON.stringify(value) : String(value);
}

/** Settings from TOML. Either every line is right, or nothing is taken and each fault says its line. */
export function settingsFromToml(catalogue: Catalogue, text: string): ParsedText {
  if (text.length > MAX_TEXT)
    return { ok: false, faults: [{ line: 1, why: 'The text is longer than 1 MB; settings are a few kB.' }] };
  const deep = tooDeep(text);
  if (deep !== null)
    return {
      ok: false,
      faults: [{ line: deep, why: `A key has up to ${MOST_PARTS} parts; this line has more.` }],
    };
  let table: unknown;
  try {
    table = parse(text, { maxDepth: 2 * MOST_PARTS });
  } catch (error) {
    if (error instanceof TomlError) {
      const first = error.message.split('\n')[0]!.replace(/^Invalid TOML document: /, '');
      return { ok: false, faults: [{ line: error.line, why: `This line is not TOML: ${first}.` }] };
    }
    throw error;
  }
  const flat = new Map<string, unknown>();
  flatten(table as Record<string, unknown>, '', flat);
  const faults: TextFault[] = [];
  const values: Record<string, SettingValue> = {};
  const lines = linesOf(text);
  for (const [key, raw] of flat) {
    const value = plainValue(catalogue, key, raw);
    const refusal = catalogue.checkValue(key, value);
    if (refusal) faults.push({ line: lines.get(key) ?? 1, why: refusal.why });
    else values[key] = value as SettingValue;
  }
  if (faults.length === 0) return { ok: true, values };
  faults.sort((a, b) => a.line - b.line);
  const more = faults.length - MOST_FAULTS;
  if (more <= 0) return { ok: false, faults };
  const rest = { line: faults[MOST_FAULTS]!.line, why: `From here on ${more} more are wrong.` };
  return { ok: false, faults: [...faults.slice(0, MOST_FAULTS), rest] };
}

/** A baud is a choice, but nobody would think of quotes: a number stands for the choice that is written like it. */
function plainValue(catalogue: Catalogue, key: string, raw: unknown): unknown {
  const value = typeof raw === 'bigint' ? Number(raw) : raw;
  return typeof value === 'number' && catalogue.entry(key)?.choices?.some((c) => c.value === String(value))
    ? String(value)
    : value;
}

function flatten(table: Record<string, unknown>, prefix: string, out: Map<string, unknown>): void {
  for (const [name, value] of Object.entries(table)) {
    const key = prefix === '' ? name : `${prefix}.${name}`;
    const plain =
      typeof value === 'object' && value !== null && !Array.isArray(value) && !(value instanceof Date);
    if (plain) flatten(value as Record<string, unknown>, key, out);
    else out.set(key, value);
  }
}

const bare = (s: string) => s.replace(/["'\s]/g, '');
const HEAD = /^\s*\[+([^\]]+)\]+/;
const NAME = /^\s*([^=#[]+)=/;

/** The first line whose key or table has too many parts; null where there is none. */
function tooDeep(text: string): number | null {
  for (const [i, line] of text.split('\n').entries()) {
    const key = HEAD.exec(line)?.[1] ?? NAME.exec(line)?.[1] ?? '';
    if (key.split('.').length > MOST_PARTS) return i + 1;
  }
  return null;
}

/** The line, from 1, on which each dotted key is set, following [table] heads, and each of the tables it is in. */
function linesOf(text: string): Map<string, number> {
  const lines = new Map<string, number>();
  let table = '';
  for (const [i, line] of text.split('\n').entries()) {
    const head = HEAD.exec(line);
    if (head) table = `${bare(head[1]!)}.`;
    const name = head ? null : NAME.exec(line);
    const key = head ? bare(head[1]!) : name ? table + bare(name[1]!) : null;
    if (key === null) continue;
    // A key in an inline table is on the line of the table.
    const inner = name ? [...line.slice(name[0].length).matchAll(/([\w.-]+)\s*=/g)] : [];
    for (const k of [key, ...inner.map((m) => `${key}.${m[1]}`)]) if (!lines.has(k)) lines.set(k, i + 1);
  }
  return lines;
}
