import { modeNames, switchedModes } from '../modes/modes.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingOf, settingsOf } from '../settings/typed.ts';
import { moments, patterns } from '../signals/signals.ts';
import { radioAlarms } from '../toldBack/alarms.ts';
import { formatQuantity, type UnitSystem } from '../units/units.ts';
import { gestures } from './gestures.ts';

/** A card for the pocket, of one set-up: short lines under a few heads. */
export interface CardPart {
  readonly title: string;
  readonly lines: readonly (readonly [what: string, how: string])[];
}

/** What of a set-up one wants to know on the strip without a computer. */
export function pocketCard(values: Values, units: UnitSystem): readonly CardPart[] {
  const s = settingsOf(values);
  const value = (key: string) => values[key];
  const band = (key: string): string | null => {
    const channel = Number(value(`${key}.channel`) ?? 0);
    if (channel === 0) return null;
    return `channel ${channel}, ${value(`${key}.from`)} to ${value(`${key}.to`)} µs`;
  };
  const switches = [
    ['Armed', band('arm')] as const,
    ...switchedModes.map((m) => [modeNames[m], band(`mode.${m}`)] as const),
  ];
  const metres = (m: number) => formatQuantity(m, 'm', units, 0);
  const sets = Number(value('set.channel') ?? 0);
  const call = Number(value('find.channel') ?? 0);
  return [
    { title: 'Switches', lines: switches.flatMap(([name, how]) => (how ? [[name, how] as const] : [])) },
    {
      title: 'The way home',
      lines: [
        ['Height', `${metres(s.number('return.height'))} over home`],
        [
          'Lost link',
          `after ${formatQuantity(s.number('lost.notice'), 's', units, 1)} of silence: ${s.choice('lost.action')}`,
        ],
      ],
    },
    {
      title: 'By stick, disarmed: left and right, held',
      lines:
        settingOf(values, 'hand.gestures') === true
          ? gestures.map((g) => [g.name, `low ${g.left} and ${g.right}`] as const)
          : [['Gestures', 'are switched off']],
    },
    {
      title: 'In the air',
      lines: [
        ['Blocked', 'gestures, writing, teaching, another firmware'],
        [
          'Still works',
          [
            'modes',
            ...(sets > 0 ? [`control sets on channel ${sets} (chosen on the ground)`] : []),
            ...dialWords(values),
            ...(call > 0 ? [`call on channel ${call}`] : []),
          ].join(', '),
        ],
      ],
    },
    {
      title: 'Alarms',
      lines: radioAlarms(values, units).flatMap((a) => (a.deaf ? [] : [[a.what, a.at] as const])),
    },
    {
      title: 'Lamps and buzzer',
      lines: moments
        .filter((m) => m !== 'flying')
        .map(
          (m) =>
            [
              patterns[m].name,
              `${patterns[m].colour}, ${rhythmWords(patterns[m].light)}${patterns[m].sound ? ', sounds' : ''}`,
            ] as const,
        ),
    },
  ];
}

const dialWords = (values: Values): string[] =>
  [1, 2].flatMap((n) => {
    const channel = Number(values[`dial.${n}.channel`] ?? 0);
    return channel > 0 ? [`dial ${n} on channel ${channel}`] : [];
  });

/** A rhythm in words: "steady", "3 short", "slow". */
function rhythmWords(light: readonly number[]): string {
  if (light.length === 1) return 'steady';
  const flashes = light.length / 2;
  const longest = Math.max(...light.filter((_, i) => i % 2 === 0));
  const rest = light.at(-1)!;
  if (flashes > 1) return `${flashes} ${longest < 250 ? 'short' : 'long'}, then dark`;
  if (longest > 3 * rest) return 'long with short gaps';
  if (rest > 3 * longest) return longest < 110 && rest < 600 ? 'quick blinks' : 'a blink now and then';
  return longest < 200 ? 'very quick' : 'even';
}
