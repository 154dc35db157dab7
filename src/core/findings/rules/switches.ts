import { isRotorcraft } from '../../airframe/airframe.ts';
import { modeNames, type SwitchedMode, switchedModes } from '../../modes/modes.ts';
import { dangersOf } from '../../modes/neighbours.ts';
import { bandsOf, enumerate, inputsOf, issuesOf } from '../../modes/switchMap.ts';
import { finding, need, num, type Rule } from '../rule.ts';

const armingSwitch: Rule = ({ values }) => {
  if (num(values, 'arm.channel') !== 0) return [];
  return [
    finding(
      'arm-unset',
      'blocks',
      'switches',
      'No switch arms the craft',
      'The board has no arming channel, so the motors never turn.',
      ['arm.channel'],
      {
        label: 'Arm with channel 5',
        edits: { 'arm.channel': 5 },
      },
    ),
  ];
};

const stickModes = ['roll', 'pitch', 'throttle', 'yaw'] as const;

const switchOnStick: Rule = ({ values }) => {
  const sticks = new Map(stickModes.map((s) => [num(values, `rx.${s}.channel`), s]));
  const switched: (readonly [id: 'arm' | 'flap' | 'set' | `mode.${SwitchedMode}`, name: string])[] = [
    ['arm', 'Arming'],
    ...switchedModes.map((m) => [`mode.${m}`, `The mode ${modeNames[m]}`] as const),
    ['flap', 'The flap lever'],
    ['set', 'The choice of control set'],
  ];
  return switched.flatMap(([id, name]) => {
    const channel = num(values, `${id}.channel`);
    const stick = sticks.get(channel);
    if (channel === 0 || !stick) return [];
    return [
      finding(
        `switch-on-stick.${id}`,
        'blocks',
        'switches',
        `${name} is on the ${stick} stick`,
        `Channel ${channel} carries the ${stick} stick; moving it would switch as well.`,
        [`${id}.channel`, `rx.${stick}.channel`],
      ),
    ];
  });
};

const armNextToReturn: Rule = ({ values }) => {
  if (num(values, 'arm.channel') === 0 || num(values, 'arm.channel') !== num(values, 'mode.return.channel'))
    return [];
  return [
    finding(
      'arm-and-return',
      'blocks',
      'switches',
      'Arming and Return home are on one switch',
      'Reaching for home could stop the motors.',
      ['arm.channel', 'mode.return.channel'],
      {
        label: 'Return home with channel 7',
        edits: { 'mode.return.channel': 7 },
      },
    ),
  ];
};

const levelSwitch: Rule = ({ values }) => {
  if (num(values, 'mode.level.channel') !== 0) return [];
  return [
    finding(
      'level-unset',
      'caution',
      'switches',
      'No switch asks for Level',
      'A craft that gets away from its pilot is caught by levelling it.',
      ['mode.level.channel'],
      {
        label: 'Level with the middle of channel 6',
        edits: { 'mode.level.channel': 6, 'mode.level.from': 1300, 'mode.level.to': 1700 },
      },
    ),
  ];
};

const returnSwitch: Rule = ({ values }) => {
  if (num(values, 'mode.return.channel') !== 0) return [];
  return [
    finding(
      'return-unset',
      'caution',
      'switches',
      'No switch asks for Return home',
      'Try the return in sight and on purpose before a lost link does it for you.',
      ['mode.return.channel'],
      {
        label: 'Return home with channel 7',
        edits: { 'mode.return.channel': 7 },
      },
    ),
  ];
};

/** More combinations than this are looked at where the switches are, not with every edit. */
const MOST_COMBINATIONS = 20_000;

const titles = {
  loose: 'is never asked for',
  disarms: 'is asked for only with the motors off',
  beaten: 'never wins',
  cannot: 'cannot be had',
  edge: 'is on the edge of a switch',
} as const;

/** What surprises in the air, of switches as far as they are known. */
const switchSurprise: Rule = ({ airframe, values, transmitter }) => {
  const bands = bandsOf(values);
  const inputs = inputsOf(bands, transmitter?.switches);
  if (inputs.reduce((n, i) => n * i.positions.length, 1) > MOST_COMBINATIONS) return [];
  const guessed = new Set(inputs.filter((i) => i.guessed).map((i) => i.channel));
  const returnDisarms = num(values, 'arm.channel') === num(values, 'mode.return.channel');
  return issuesOf(enumerate(bands, inputs), values, isRotorcraft(airframe)).flatMap((issue) => {
    const { kind, asks, channel, sentence } = issue;
    if (kind === 'gap' || asks === null) return [];
    // Of a switch that nobody flicked it is not known where it rests; and a return beside arming is a finding of its own.
    if ((kind === 'loose' || kind === 'edge') && guessed.has(channel)) return [];
    if (asks === 'return' && returnDisarms) return [];
    const id = asks === 'arm' ? ('arm' as const) : (`mode.${asks}` as const);
    return [
      finding(
        `switch-surprise.${kind}.${asks}`,
        'caution',
        'switches',
        `${asks === 'arm' ? 'Arming' : modeNames[asks]} ${titles[kind]}`,
        sentence,
        [`${id}.channel`, `${id}.from`, `${id}.to`],
      ),
    ];
  });
};

/** Where switches lie and when they are touched, as a person said. */
const switchDangers: Rule = ({ values, transmitter }) => {
  need(values, 'arm.channel');
  return (transmitter ? dangersOf(values, transmitter) : []).map(({ kind, channel, sentence }) =>
    finding(
      `switch-danger.${kind}.${channel}`,
      'caution',
      'switches',
      `Channel ${channel} ${{ beside: 'lies where it stops motors by mistake', springs: 'springs back', 'stops-in-flight': 'stops motors in flight' }[kind]}`,
      sentence,
      ['arm.channel'],
    ),
  );
};

export const switchesRules: readonly Rule[] = [
  armingSwitch,
  switchOnStick,
  armNextToReturn,
  levelSwitch,
  returnSwitch,
  switchSurprise,
  switchDangers,
];
