import type { Values } from './catalogue.ts';
import type { PfadSettings } from './pfadSettings.ts';

/**
 * Settings by keys and types that the compiler knows: those of the version that everything is written for. A board may have
 * others, or not have these; what it has is in `Values` by whatever key.
 */
export type SettingKey = keyof PfadSettings & string;
type KeysOf<T> = { [K in keyof PfadSettings]: PfadSettings[K] extends T ? K : never }[keyof PfadSettings] &
  string;
export type NumberKey = KeysOf<number>;
export type FlagKey = KeysOf<boolean>;
/** Those that are one of several words. */
export type ChoiceKey = KeysOf<string>;

/** A setting's value; undefined where the board has no such setting. */
export function settingOf<K extends SettingKey>(values: Values, key: K): PfadSettings[K] | undefined {
  return values[key] as PfadSettings[K] | undefined;
}

/** Settings of a complete set, as the firmware has them that everything is written for. */
export function settingsOf(values: Values) {
  return {
    number: (key: NumberKey): number => values[key] as number,
    flag: (key: FlagKey): boolean => values[key] as boolean,
    choice: <K extends ChoiceKey>(key: K): PfadSettings[K] => values[key] as PfadSettings[K],
  };
}
