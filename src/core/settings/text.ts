import { parse, TomlError } from 'smol-toml';
import type { Catalogue, SettingValue, Values } from './catalogue.ts';

const MAX_TEXT = 1_000_000;

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
  let table: unknown;
  try {
    table = parse(text);
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
  for (const [key, raw] of flat) {
    const value = plainValue(catalogue, key, raw);
    const refusal = catalogue.checkValue(key, value);
    if (refusal) faults.push({ line: lineOf(text, key), why: refusal.why });
    else values[key] = value as SettingValue;
  }
  if (faults.length > 0) return { ok: false, faults: faults.sort((a, b) => a.line - b.line) };
  return { ok: true, values };
}

/** A baud is a choice, but nobody would think of quotes: a number stands for the choice that is written like it. */
function plainValue(catalogue: Catalogue, key: string, raw: unknown): unknown {
  const value = typeof raw === 'bigint' ? Number(raw) : raw;
  const text = String(value);
  return typeof value === 'number' && catalogue.entry(key)?.choices?.some((c) => c.value === text)
    ? text
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

/** The line on which a dotted key is set, following [table] heads; 1 when it cannot be told. */
function lineOf(text: string, key: string): number {
  const bare = (s: string) => s.replace(/["'\s]/g, '');
  let table = '';
  const lines = text.split('\n');
  for (let i = 0; i < lines.length; i++) {
    const line = lines[i]!.trim();
    const head = /^\[+([^\]]+)\]+/.exec(line);
    if (head) table = `${bare(head[1]!)}.`;
    else {
      const name = /^([^=#]+)=/.exec(line);
      if (name && (table + bare(name[1]!) === key || key.startsWith(`${table + bare(name[1]!)}.`)))
        return i + 1;
    }
  }
  return 1;
}
