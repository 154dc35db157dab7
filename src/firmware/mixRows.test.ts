import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { avocet, sandpiper, turnstone } from '#core/airframe/library.ts';
import { authorityOf } from '#core/mixer/authority.ts';
import { MIX_ROWS, type RowSource, rowSources } from '#core/mixer/freeRows.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { prepared } from '../testing/aloft.ts';
import { demoCraft } from '../testing/demoCraft.ts';
import { BenchMoves } from './benchMoves.ts';
import { pfadCatalogue } from './catalogue.ts';
import { compileConfig } from './config.ts';
import { Outputs, RowInputs } from './outputs.ts';
import { PilotInput } from './pilotInput.ts';

const none = { roll: 0, pitch: 0, yaw: 0, throttle: 0, flap: 0 };

const hover = { throttle: 0.4 };

/** Rows as settings. */
const rows = (...of: readonly Readonly<Record<string, number | string>>[]): Values =>
  Object.assign(
    {},
    ...of.map((row, i) =>
      Object.fromEntries(Object.entries(row).map(([k, v]) => [`mix.row.${i + 1}.${k}`, v])),
    ),
  );

/** Pulses of a craft's last stage for a command, its channels and how it lies. */
function pulsesOf(
  values: Values,
  command: Partial<typeof none>,
  {
    channels = {},
    roll = 0,
    pitch = 0,
  }: { channels?: Record<number, number>; roll?: number; pitch?: number } = {},
) {
  const c = compileConfig(values);
  const outputs = new Outputs(c, 0.001);
  const input = new PilotInput(c);
  input.linkAlive = true;
  for (const [n, us] of Object.entries(channels)) input.channels[Number(n) - 1] = us;
  const inputs = new RowInputs();
  const k = { ...none, ...command };
  for (let step = 0; step < 60; step++) {
    inputs.fill(k, input, roll, pitch, 0);
    outputs.step(k, new BenchMoves(), true, inputs.values, input.channels);
  }
  return outputs.pulses;
}

const outputFor = (values: Values, id: string) =>
  [1, 2, 3, 4, 5, 6, 7, 8, 9].find((n) => values[`out.${n}.drives`] === id)!;

describe('rows of a mix of one’s own', () => {
  const base = prepared(turnstone);
  const left = outputFor(base, 'left-aileron');
  const right = outputFor(base, 'right-aileron');

  it('leave everything to the last bit as it is where none does anything', () => {
    for (const name of ['turnstone', 'sandpiper', 'knot', 'ruff', 'avocet'] as const) {
      const values = { ...pfadCatalogue.defaults(), ...demoCraft(name).settings };
      const other = rows(...Array.from({ length: MIX_ROWS }, () => ({ to: 12, from: 'roll', weight: 1 })));
      const command = { roll: 0.37, pitch: -0.21, yaw: 0.11, throttle: 0.53, flap: 0.4 };
      const [without, withOthers] = [pulsesOf(values, command), pulsesOf({ ...values, ...other }, command)];
      for (let i = 0; i < 9; i++) expect(withOthers[i], `${name} ${i + 1}`).toBe(without[i]);
    }
  });

  it('add: crow lifts both ailerons with the flaps, and roll still goes on top', () => {
    const crow = {
      ...base,
      'mix.aileronUp': 0,
      ...rows({ to: left, from: 'flap', weight: -0.6 }, { to: right, from: 'flap', weight: -0.6 }),
    };
    const at = (command: Partial<typeof none>, output: number) => pulsesOf(crow, command)[output - 1]!;
    const way = (output: number) => (base[`out.${output}.reversed`] ? -1 : 1);
    // The flap is down at once in the last stage: 0.6 of 500 us up on either side.
    expect((at({ flap: 1 }, left) - 1500) * way(left)).toBeCloseTo(-300, 6);
    expect((at({ flap: 1 }, right) - 1500) * way(right)).toBeCloseTo(-300, 6);
    expect((at({ flap: 1, roll: 0.3 }, left) - 1500) * way(left)).toBeCloseTo(-150, 6);
  });

  it('move an output on which nothing else hangs: a gimbal against the bank, a release by a switch, a knob passed through', () => {
    const values = {
      ...base,
      ...rows(
        { to: 7, from: 'bank', weight: -1, low: -0.5, high: 0.5 },
        { to: 8, from: 'always', weight: 1, channel: 9, fromUs: 1700, toUs: 2200 },
        { to: 9, from: 'channel-10', weight: 1 },
      ),
    };
    const at = (how: Parameters<typeof pulsesOf>[2]) => pulsesOf(values, {}, how);
    expect(at({ roll: Math.PI / 8 })[6]).toBeCloseTo(1500 - 125, 6);
    expect(at({ roll: Math.PI / 2 })[6]).toBeCloseTo(1250, 6);
    expect(at({ channels: { 9: 1000, 10: 1500 } })[7]).toBe(1500);
    expect(at({ channels: { 9: 2000, 10: 1500 } })[7]).toBe(2000);
    expect(at({ channels: { 10: 1380 } })[8]).toBeCloseTo(1380, 6);
  });

  it('take nothing from sticks that nobody holds', () => {
    const c = compileConfig({ ...base, ...rows({ to: 7, from: 'stick-roll', weight: 1 }) });
    const input = new PilotInput(c);
    input.sticks.roll = 1;
    const inputs = new RowInputs();
    inputs.fill(none, input, 0, 0, 0.5);
    expect(inputs.values[rowSources.indexOf('stick-roll')]).toBe(0);
    input.linkAlive = true;
    inputs.fill(none, input, 0, 0, 0.5);
    expect(inputs.values[rowSources.indexOf('stick-roll')]).toBe(1);
    expect(inputs.values[rowSources.indexOf('camera')]).toBe(0.5);
  });

  it('never send a pulse beyond an output’s ends, 1,000 random mixes', () => {
    const row = fc.record({
      to: fc.integer({ min: 1, max: 9 }),
      from: fc.constantFrom<RowSource>(...rowSources),
      weight: fc.double({ min: -2, max: 2, noNaN: true }),
      low: fc.double({ min: -1, max: 1, noNaN: true }),
      high: fc.double({ min: -1, max: 1, noNaN: true }),
      curve: fc.double({ min: 0, max: 0.9, noNaN: true }),
    });
    const unit = fc.double({ min: -1, max: 1, noNaN: true });
    const craft = prepared(sandpiper);
    fc.assert(
      fc.property(
        fc.array(row, { minLength: 1, maxLength: 8 }),
        unit,
        unit,
        unit,
        (of, roll, pitch, flap) => {
          const values = { ...craft, ...rows(...of) };
          const pulses = pulsesOf(
            values,
            { roll, pitch, throttle: Math.abs(roll), flap: Math.abs(flap) },
            {
              channels: { 5: 2200, 9: 900 },
              roll: roll * 3,
            },
          );
          for (let n = 1; n <= 9; n++) {
            const pulse = pulses[n - 1]!;
            if (pulse === 0) continue;
            expect(pulse).toBeGreaterThanOrEqual(Number(values[`out.${n}.low`]));
            expect(pulse).toBeLessThanOrEqual(Number(values[`out.${n}.high`]));
          }
        },
      ),
      { numRuns: 1000 },
    );
  });

  it('move a rotor as well, never below idle nor beyond full', () => {
    const quad = prepared(avocet);
    const front = outputFor(quad, 'front-left-motor');
    const row = (weight: number) =>
      pulsesOf({ ...quad, ...rows({ to: front, from: 'channel-9', weight, low: -1, high: 1 }) }, hover, {
        channels: { 9: 2000 },
      })[front - 1]!;
    const without = pulsesOf(quad, hover)[front - 1]!;
    expect(row(0.1) - without).toBeCloseTo(0.1 * 1000, 6);
    const { lowUs, highUs } = compileConfig(quad).outputs[front - 1]!;
    expect(row(-2)).toBeCloseTo(lowUs + compileConfig(quad).idle * (highUs - lowUs), 6);
    expect(row(2)).toBe(highUs);
    expect(
      pulsesOf({ ...quad, ...rows({ to: front, from: 'roll', weight: -0.4 }) }, { ...hover, roll: 0.2 })[
        front - 1
      ],
    ).not.toBe(pulsesOf(quad, { ...hover, roll: 0.2 })[front - 1]);
  });

  it('behind a switch count in what full commands do only where it is on', () => {
    const values = {
      ...base,
      ...rows({ to: left, from: 'roll', weight: -0.9, low: -1, high: 1, channel: 9 }),
    };
    const roll = (v: Values, on: boolean) => authorityOf(turnstone, v, undefined, on).turns[0]![0]!;
    expect(roll(values, false)).toBe(roll(base, true));
    expect(roll(values, true)).toBeLessThan(0.7 * roll(values, false));
  });
});
