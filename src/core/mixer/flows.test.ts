import { describe, expect, it } from 'vitest';
import { BenchMoves } from '#firmware/benchMoves.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { compileConfig } from '#firmware/config.ts';
import { Outputs } from '#firmware/outputs.ts';
import { demoCraft } from '../../testing/demoCraft.ts';
import { isMotor } from '../airframe/actuators.ts';
import { isRotorcraft } from '../airframe/airframe.ts';
import type { Values } from '../settings/catalogue.ts';
import { mixRows } from './authority.ts';
import { commandedBy } from './commanded.ts';
import { flowSources, flowsOf } from './flows.ts';

const HALF = 0.5;

/** What the firmware's last stage makes of half a command, once its pulses are out. */
function commanded(values: Values, command: Partial<Record<(typeof flowSources)[number], number>>) {
  const outputs = new Outputs(compileConfig(values), 0.001);
  const bench = new BenchMoves();
  const k = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0, ...command };
  for (let step = 0; step < 60; step++) outputs.step(k, bench, true);
  return commandedBy(values, outputs.pulses);
}

describe('flows', () => {
  it.each(['turnstone', 'dunlin', 'sandpiper', 'knot', 'ruff', 'avocet'] as const)(
    'of %s are what the firmware sends',
    (name) => {
      const { airframe, settings } = demoCraft(name);
      const values: Values = {
        ...pfadCatalogue.defaults(),
        ...settings,
        'mix.aileronUp': 0,
        'motor.idle': 0,
      };
      const rows = mixRows(airframe, values);
      const flows = flowsOf(rows, values, airframe.kind);
      expect(flows.length).toBeGreaterThan(0);
      for (const from of flowSources) {
        // Motors have room to both sides; rotors for a small command only.
        const size = isRotorcraft(airframe) && from !== 'throttle' ? 0.2 : HALF;
        const base = from === 'throttle' ? 0 : HALF;
        const sent = commanded(values, { throttle: base, [from]: size });
        for (const row of rows) {
          const weight = flows.find((f) => f.from === from && f.row === row)?.weight ?? 0;
          const rest = isMotor(row.drives) ? base : 0;
          expect(sent[row.drives]! - rest, `${from} to ${row.drives}`).toBeCloseTo(weight * size, 6);
        }
      }
    },
  );
});
