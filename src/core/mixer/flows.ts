import { type ActuatorId, isMotor, type Kind } from '../airframe/actuators.ts';
import { isRotorcraft } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { settingsOf } from '../settings/typed.ts';
import type { MixRow } from './authority.ts';
import { type FreeRow, freeRowsOf, type RowSource } from './freeRows.ts';

export const flowSources = ['roll', 'pitch', 'yaw', 'throttle', 'flap'] as const;

/** An output that something flows to. */
export interface FlowEnd {
  readonly output: number;
  /** Null where nothing of the craft hangs on it. */
  readonly drives: ActuatorId | null;
}

/** What of one command goes to one output. */
export interface Flow {
  readonly from: RowSource;
  readonly row: FlowEnd;
  /** Share of the output's travel by a full command; negative moves it up, or the rudder right. */
  readonly weight: number;
  /** The row of one's own that it comes by. */
  readonly own?: FreeRow;
}

/** Everything that flows from commands to outputs, with what the settings of the mix make of it. */
export function flowsOf(rows: readonly MixRow[], values: Values, kind: Kind): Flow[] {
  const s = settingsOf(values);
  const [turnRudder, differential] = [s.number('mix.turnRudder'), s.number('mix.differential')];
  const rotors = isRotorcraft({ kind });
  const usual = rows.flatMap((row) =>
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
  const ends = new Map<number, FlowEnd>(rows.map((r) => [r.output, r]));
  return [
    ...usual,
    ...freeRowsOf(values).map((r): Flow => {
      const row = ends.get(r.output) ?? { output: r.output, drives: null };
      ends.set(r.output, row);
      return { from: r.source, row, weight: r.weight, own: r };
    }),
  ];
}
