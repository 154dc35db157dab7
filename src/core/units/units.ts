export type UnitSystem = 'metric' | 'imperial' | 'aviation';
export const unitSystems: readonly UnitSystem[] = ['metric', 'imperial', 'aviation'];

interface Display {
  readonly symbol: string;
  readonly factor: number;
}

/** Units in which boards keep their settings, and the words and letters a person reads. */
const METRIC = {
  none: '',
  us: 'µs',
  'us/s': 'µs/s',
  hz: 'Hz',
  deg: '°',
  'deg/s': '°/s',
  m: 'm',
  'm/s': 'm/s',
  'm/s2': 'm/s²',
  s: 's',
  v: 'V',
  share: '',
  percent: '%',
  baud: 'baud',
  mah: 'mAh',
  count: '',
  mm: 'mm',
  kg: 'kg',
  g: 'g',
  m2: 'm²',
  'kg/m2': 'kg/m²',
  wh: 'Wh',
  a: 'A',
  ut: 'µT',
  pa: 'Pa',
  hpa: 'hPa',
  degc: '°C',
  cell: '',
  ohm: 'Ω',
} as const;
export type UnitId = keyof typeof METRIC;

const FEET: Display = { symbol: 'ft', factor: 1 / 0.3048 };
const SMALL_IMPERIAL: Partial<Record<UnitId, Display>> = {
  m: FEET,
  mm: { symbol: 'in', factor: 1 / 25.4 },
  kg: { symbol: 'lb', factor: 1 / 0.45359237 },
  g: { symbol: 'oz', factor: 1 / 28.349523125 },
  m2: { symbol: 'ft²', factor: 1 / 0.3048 ** 2 },
  'kg/m2': { symbol: 'lb/ft²', factor: 0.3048 ** 2 / 0.45359237 },
};

const OTHER: Readonly<Record<Exclude<UnitSystem, 'metric'>, Partial<Record<UnitId, Display>>>> = {
  imperial: { ...SMALL_IMPERIAL, 'm/s': { symbol: 'mph', factor: 1 / 0.44704 } },
  aviation: { m: FEET, 'm/s': { symbol: 'kt', factor: 3600 / 1852 } },
};

const isKnown = (unit: string): unit is UnitId => Object.hasOwn(METRIC, unit);

/**
 * How a quantity kept in `unit` is shown: multiply by `factor`, write `symbol` after it.
 * @param unit one of ours, or any word of a board, which is shown as it is
 */
export function displayOf(unit: string, system: UnitSystem): Display {
  if (!isKnown(unit)) return { symbol: unit, factor: 1 };
  const other = system === 'metric' ? undefined : OTHER[system][unit];
  return other ?? { symbol: METRIC[unit], factor: 1 };
}

/** A number with its unit in words for a sentence, rounded to what the eye can use. */
export function formatQuantity(
  value: number,
  unit: string,
  system: UnitSystem = 'metric',
  digits?: number,
): string {
  if (unit === 'cell') return cellText(value);
  const { symbol, factor } = displayOf(unit, system);
  const text = formatNumber(value * factor, digits);
  return symbol === '' ? text : symbol.startsWith('°') ? `${text}${symbol}` : `${text} ${symbol}`;
}

/** A cell of a grid of text, kept as hundreds of rows and the column from 0, as a person counts them. */
const cellText = (cell: number): string =>
  cell < 0 ? 'not shown' : `row ${Math.floor(cell / 100) + 1}, column ${(cell % 100) + 1}`;

/** A number with at most `digits` decimals (by size when left out) and no trailing zeros. */
export function formatNumber(value: number, digits?: number): string {
  const size = Math.abs(value);
  const d = digits ?? (size >= 100 ? 0 : size >= 10 ? 1 : size >= 1 ? 2 : 3);
  const text = value.toFixed(d);
  const trimmed = text.includes('.') ? text.replace(/\.?0+$/, '') : text;
  return trimmed === '-0' ? '0' : trimmed;
}

/** "045°" from an angle from north, rad, whichever way it was counted. */
export function formatBearing(rad: number): string {
  const deg = ((Math.round((rad * 180) / Math.PI) % 360) + 360) % 360;
  return `${String(deg).padStart(3, '0')}°`;
}

/** "5 min 40 s" from seconds. */
export function formatDuration(seconds: number): string {
  const s = Math.round(seconds);
  if (s < 60) return `${s} s`;
  const rest = s % 60;
  return rest === 0 ? `${Math.floor(s / 60)} min` : `${Math.floor(s / 60)} min ${rest} s`;
}

/** "253 kB" or "1.05 MB" from bytes. */
export function formatBytes(bytes: number): string {
  return bytes < 1e6 ? `${formatNumber(bytes / 1e3, 0)} kB` : `${formatNumber(bytes / 1e6, 2)} MB`;
}

/** "3:05" from seconds. */
export function formatClock(seconds: number): string {
  const s = Math.max(0, Math.round(seconds));
  return `${Math.floor(s / 60)}:${String(s % 60).padStart(2, '0')}`;
}
