import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import { formatQuantity, type UnitSystem } from '../units/units.ts';
import { toldFit } from './fit.ts';
import type { ToldId } from './sensors.ts';

/** What to have the radio warn of, beside what the board does by itself at the same mark. */
export interface RadioAlarm {
  readonly what: string;
  /** Where the transmitter's own alarm belongs. */
  readonly at: string;
  readonly board: string;
  /** It hears nothing of that as it is set: what would have to be told first; null where it does. */
  readonly deaf: ToldId | null;
}

/** So much sooner than the board acts, so that the pilot is first, V a cell. */
const SOONER_V = 0.1;

export function radioAlarms(values: Values, units: UnitSystem): readonly RadioAlarm[] {
  const s = settingsOf(values);
  const fit = toldFit(values);
  const deaf = (id: ToldId) => (fit.sensors.find((x) => x.id === id)!.hz > 0 ? null : id);
  const cells = s.number('battery.cells');
  const pack = (cell: number) => `${formatQuantity(cell * cells, 'v', units, 1)}`;
  const home = (key: 'battery.lowAction' | 'battery.emptyAction') =>
    ({ say: 'only says so', return: 'comes home', land: 'lands' })[String(s.choice(key))] ??
    'acts as it is set';
  const low = s.number('battery.low');
  const empty = s.number('battery.empty');
  const speed = s.number('overlay.alarm.airspeed.at');
  const quality = s.number('overlay.alarm.quality.at');
  return [
    {
      what: 'Battery low',
      at: `below ${pack(low + SOONER_V)}`,
      board: `${home('battery.lowAction')} below ${pack(low)}`,
      deaf: deaf('battery'),
    },
    {
      what: 'Battery empty',
      at: `below ${pack(empty + SOONER_V)}`,
      board: `${home('battery.emptyAction')} below ${pack(empty)}`,
      deaf: deaf('battery'),
    },
    {
      what: 'Link poor',
      at: `below ${Math.round(100 * Math.max(quality, 0.5))} %`,
      board: `counts it as lost after ${formatQuantity(s.number('lost.notice'), 's', units, 1)} of silence`,
      deaf: null,
    },
    {
      what: 'Telemetry lost',
      at: 'when nothing comes for 3 s',
      board: 'does nothing: it may still hear you well',
      deaf: null,
    },
    ...(speed > 0
      ? [
          {
            what: 'Airspeed low',
            at: `below ${formatQuantity(speed, 'm/s', units, 0)}`,
            board: 'keeps its least airspeed in modes that it flies itself',
            deaf: deaf('air'),
          },
        ]
      : []),
  ];
}
