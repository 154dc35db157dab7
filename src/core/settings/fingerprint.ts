import { crc32 } from '../wire/crc32.ts';
import type { Values } from './catalogue.ts';

const encoder = new TextEncoder();

/** A short name for a set of values: CRC-32 over `key=value` lines in the order of their keys, in hex. */
export function fingerprintOf(values: Values, keys: readonly string[] = Object.keys(values)): string {
  const text = [...keys].sort().map((k) => `${k}=${canonical(values[k])}`);
  return crc32(encoder.encode(text.join('\n')))
    .toString(16)
    .padStart(8, '0');
}

function canonical(value: unknown): string {
  return typeof value === 'number' ? String(Number(value.toPrecision(7))) : String(value);
}
