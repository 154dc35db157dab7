/** What Kar can be told: forty settings with words and units of its own, as docs/link.md wants them said. */

export type Value = number | string | boolean | readonly number[];

export interface Setting {
  readonly key: string;
  readonly group: string;
  readonly label: string;
  readonly meaning: string;
  readonly type: string;
  readonly unit: string;
  readonly min?: number;
  readonly max?: number;
  readonly step?: number;
  readonly choices?: readonly { value: string; label: string }[];
  readonly default: Value;
  readonly effect: 'now' | 'restart';
}

const number = (
  group: string,
  key: string,
  label: string,
  unit: string,
  [min, usual, max]: readonly [number, number, number],
  meaning: string,
): Setting => ({ key, group, label, meaning, type: 'number', unit, min, max, default: usual, effect: 'now' });

const sides = ['left', 'right', 'tail'] as const;
const axes = ['lean', 'tip', 'swing'] as const;

export const settings: readonly Setting[] = [
  ...sides.flatMap((side) => [
    number('Surfaces', `${side}.middle`, `Middle of the ${side}`, 'gon', [-100, 0, 100], 'Where it rests.'),
    number('Surfaces', `${side}.travel`, `Travel of the ${side}`, 'gon', [0, 50, 100], 'How far it goes.'),
    number('Surfaces', `${side}.pace`, `Pace of the ${side}`, 'gon/s', [10, 400, 900], 'How fast it goes.'),
    {
      key: `${side}.turned`,
      group: 'Surfaces',
      label: `The ${side} turned round`,
      meaning: 'It goes the other way.',
      type: 'flag',
      unit: 'none',
      default: false,
      effect: 'now',
    } as const,
  ]),
  ...axes.flatMap((axis) => [
    number(
      'Steadying',
      `${axis}.push`,
      `Push against ${axis}`,
      'gon per gon',
      [0, 0.4, 3],
      'By how far it is off.',
    ),
    number(
      'Steadying',
      `${axis}.lean-in`,
      `Lean into ${axis}`,
      'per min',
      [0, 6, 90],
      'By how long it is off.',
    ),
    number(
      'Steadying',
      `${axis}.brake`,
      `Brake of ${axis}`,
      'ticks',
      [0, 12, 255],
      'By how fast it changes.',
    ),
    number('Steadying', `${axis}.most`, `Most ${axis}`, 'gon', [5, 40, 80], 'What it never goes beyond.'),
  ]),
  number('Coming home', 'home.up', 'Up before it turns', 'fathom', [0, 40, 300], 'Above where it started.'),
  number('Coming home', 'home.ring', 'Ring above home', 'chain', [1, 3, 30], 'How wide it circles.'),
  number('Coming home', 'home.pace', 'Pace home', 'knot', [10, 26, 90], 'Through the air.'),
  number('Coming home', 'home.wait', 'Silence before it turns', 'heartbeats', [1, 4, 60], 'Of the radio.'),
  {
    key: 'home.then',
    group: 'Coming home',
    label: 'Once it is home',
    meaning: 'What it does above home.',
    type: 'choice',
    unit: 'none',
    choices: [
      { value: 'ring', label: 'goes round' },
      { value: 'sit', label: 'comes down' },
    ],
    default: 'ring',
    effect: 'now',
  },
  ...(['hand', 'flat', 'home'] as const).map((mode) =>
    number('Switch', `switch.${mode}`, `From where it is ${mode}`, 'notch', [0, 4, 12], 'Of the one switch.'),
  ),
  number('Machine', 'machine.warm', 'Warmth to go slower at', 'degre', [20, 70, 110], 'Of its winding.'),
  number('Machine', 'machine.soft', 'Softness of its start', 'ticks', [0, 30, 255], 'From still to full.'),
  number('Machine', 'machine.cells', 'Cells in a row', '', [1, 3, 6], 'Of the battery.'),
  {
    key: 'machine.curve',
    group: 'Machine',
    label: 'Curve of its pull',
    meaning: 'What it gives at each fifth of the lever.',
    type: 'curve',
    unit: 'newton',
    default: [0, 1, 3, 6, 10],
    effect: 'restart',
  },
  {
    key: 'link.name',
    group: 'Others',
    label: 'What it is called',
    meaning: 'Said when it is met.',
    type: 'words',
    unit: 'none',
    default: 'kar',
    effect: 'restart',
  },
  number('Others', 'others.beep', 'Beeps before it starts', '', [0, 3, 20], 'For whoever stands near.'),
  number('Others', 'others.glow', 'Glow of its lamp', 'candle', [0, 1, 12], 'While it waits.'),
  number('Others', 'others.gnat', 'Share of small turns', '%', [0, 10, 100], 'Of all that it makes.'),
];
