import type { SettingValue, Values } from '../settings/catalogue.ts';
import type { SettingEntry } from '../settings/catalogueSchema.ts';

/** What a motor controller of the make Kolk can be told, in its own memory; the board only passes it on. */

/** Models, by the name that firmware is built for. */
export const kolkModels = [
  { target: 'kolk-30', name: 'Kolk 30', flashBytes: 65_536 },
  { target: 'kolk-50', name: 'Kolk 50', flashBytes: 65_536 },
] as const;
export const kolkTargets = kolkModels.map((m) => m.target);

const entry = (
  key: string,
  label: string,
  meaning: string,
  rest: Pick<SettingEntry, 'type' | 'unit' | 'default'> & Partial<SettingEntry>,
): SettingEntry => ({ key, group: 'Controller', label, meaning, effect: 'now', ...rest });

export const kolkEntries: readonly SettingEntry[] = [
  entry('direction', 'Direction', 'Which way round the motor turns for the same wires.', {
    type: 'choice',
    unit: 'none',
    default: 'normal',
    choices: [
      { value: 'normal', label: 'as wired' },
      { value: 'reversed', label: 'reversed' },
    ],
  }),
  entry(
    'brake',
    'Brake on stop',
    'Holds the propeller when the motor is off, so that it folds or does not turn in the wind.',
    {
      type: 'flag',
      unit: 'none',
      default: false,
    },
  ),
  entry('timing', 'Timing', 'How far ahead the windings are switched. More gives speed and heat.', {
    type: 'number',
    unit: 'deg',
    min: 0,
    max: 30,
    step: 1,
    default: 15,
  }),
  entry('start', 'Start-up power', 'How hard it pushes until it feels the motor turn.', {
    type: 'number',
    unit: 'percent',
    min: 25,
    max: 150,
    step: 5,
    default: 100,
  }),
  entry('heat', 'Temperature limit', 'Above this it holds power down. 0 lets it burn.', {
    type: 'number',
    unit: 'degc',
    min: 0,
    max: 140,
    step: 5,
    default: 110,
  }),
  entry(
    'cutoff',
    'Cut-off per cell',
    'Below this it takes the motor’s power away. 0 leaves that to the board.',
    {
      type: 'number',
      unit: 'v',
      min: 0,
      max: 3.6,
      step: 0.1,
      default: 3.2,
    },
  ),
  entry('beacon', 'Beeps after', 'Tones of the motor once nothing was asked of it for so long. 0 never.', {
    type: 'number',
    unit: 's',
    min: 0,
    max: 600,
    step: 30,
    default: 0,
  }),
];

export const kolkDefaults: Values = Object.fromEntries(kolkEntries.map((e) => [e.key, e.default]));

/** Why a controller does not take a value, as a sentence; null where it does. */
export function kolkRefuses(key: string, value: SettingValue): string | null {
  const e = kolkEntries.find((x) => x.key === key);
  if (!e) return `It has no setting ${key}.`;
  if (e.type === 'flag') return typeof value === 'boolean' ? null : `${e.label} is on or off.`;
  if (e.type === 'choice')
    return e.choices!.some((c) => c.value === value) ? null : `${e.label} has no choice ${String(value)}.`;
  return typeof value === 'number' && value >= e.min! && value <= e.max!
    ? null
    : `${e.label} goes from ${e.min} to ${e.max}.`;
}
