import { isMotor, isRotorcraft, type Kind } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { MixRow } from './authority.ts';

export const flowSources = ['roll', 'pitch', 'yaw', 'throttle', 'flap'] as const;
export type FlowSource = (typeof flowSources)[number];

/** What of one command goes to one output. */
export interface Flow {
  readonly from: FlowSource;
  readonly row: MixRow;
  /** Share of the output's travel by a full command; negative moves it up, or the rudder right. */
  readonly weight: number;
}

/** Everything that flows from commands to outputs, with what the settings of the mix make of it. */
export function flowsOf(rows: readonly MixRow[], values: Values, kind: Kind): Flow[] {
  const s = settingsOf(values);
  const [turnRudder, differential] = [s.number('mix.turnRudder'), s.number('mix.differential')];
  const rotors = isRotorcraft({ kind });
  return rows.flatMap((row) =>
    flowSources.flatMap((from): Flow[] => {
      const { mix, drives } = row;
      let weight = mix[from];
      if (from === 'yaw' && isMotor(drives) && !rotors) weight *= differential;
      // A rudder helps a turn along: it takes a part of the roll command.
      if (from === 'roll' && mix.roll === 0 && mix.yaw !== 0 && !isMotor(drives))
        weight = mix.yaw * turnRudder;
      return Math.abs(weight) < 1e-9 ? [] : [{ from, row, weight }];
    }),
  );
}
