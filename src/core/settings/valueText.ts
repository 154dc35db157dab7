import { displayOf, formatQuantity, type UnitSystem } from '../units/units.ts';
import type { SettingValue } from './catalogue.ts';
import type { SettingEntry } from './catalogueSchema.ts';

/** A setting's value as text, with its unit. */
export function valueText(
  entry: SettingEntry | undefined,
  value: SettingValue | undefined,
  units: UnitSystem,
): string {
  if (!entry || value === undefined) return String(value ?? '');
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (typeof value === 'number') return formatQuantity(value, entry.unit, units);
  return entry.choices?.find((c) => c.value === value)?.label ?? value;
}

/** Two values of a setting beside each other, as exact as it takes to see that they differ. */
export function valueTexts(
  entry: SettingEntry | undefined,
  a: SettingValue | undefined,
  b: SettingValue | undefined,
  units: UnitSystem,
): readonly [string, string] {
  const usual = [valueText(entry, a, units), valueText(entry, b, units)] as const;
  if (usual[0] !== usual[1] || a === b || typeof a !== 'number' || typeof b !== 'number' || !entry)
    return usual;
  const { factor } = displayOf(entry.unit, units);
  const digits = Math.min(7, Math.max(1, Math.ceil(-Math.log10(Math.abs(a - b) * factor))) + 1);
  return [formatQuantity(a, entry.unit, units, digits), formatQuantity(b, entry.unit, units, digits)];
}
