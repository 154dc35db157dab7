import type { SettingEntry, SettingValue } from '#core/settings/catalogue.ts';
import { formatQuantity, type UnitSystem } from '#core/units/units.ts';

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
