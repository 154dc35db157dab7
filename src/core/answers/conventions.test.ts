import { describe, expect, it } from 'vitest';
import { catalogueOf } from '#firmware/releases.ts';
import { prepared } from '../../testing/aloft.ts';
import { avocet, turnstone } from '../airframe/library.ts';
import { LowPass } from '../control/lowPass.ts';
import { conventionSchema } from '../formats/convention.ts';
import { migrate, pathBetween } from '../settings/migration/migrate.ts';
import { broughtConventions, cannotCarry, newConvention, takeOver } from './conventions.ts';

const values = prepared(turnstone);
const at = (rows: ReturnType<typeof takeOver>, part: string) => rows.find((r) => r.part === part)!.value;
const plain = newConvention('x');

describe('gains of another scale', () => {
  it('are ours where they mean what ours mean', () => {
    const same = { ...plain, speedMps: values['rate.reference'] as number };
    const rows = takeOver(same, { p: 0.1, i: 0.2, d: 0.003, forward: 0.15 }, 'pitch', values, false);
    expect(rows.map((r) => [r.key, r.value, r.formula])).toEqual([
      ['rate.pitch.p', 0.1, ''],
      ['rate.pitch.i', 0.2, ''],
      ['rate.pitch.d', 0.003, ''],
      ['rate.pitch.forward', 0.15, ''],
    ]);
  });

  // Microseconds per degree a second, 500 for full command: the factor by which 2.8's settings are migrated.
  it('of Pfad 2.8 come to what its settings are migrated to', () => {
    const [old] = broughtConventions;
    expect(old!.name).toBe('Pfad 2.8');
    const rows = takeOver(
      { ...old!, speedMps: values['rate.reference'] as number },
      { p: 0.8, forward: 2.5 },
      'roll',
      values,
      false,
    );
    const old28 = { ...catalogueOf('2.8').defaults(), 'gain.roll.p': 0.8, 'gain.roll.forward': 2.5 };
    const path = pathBetween('2.8', '3.2-rc1')!;
    const moved = migrate(
      old28,
      '2.8',
      '3.2-rc1',
      path,
      catalogueOf('2.8'),
      catalogueOf('3.2-rc1'),
      {},
    ).values;
    expect(at(rows, 'p')).toBeCloseTo(moved['rate.roll.p'] as number, 4);
    expect(at(rows, 'forward')).toBeCloseTo(moved['rate.roll.forward'] as number, 4);
    expect(rows[0]!.formula).toBe('÷ 500 µs of full command × 57.3 °/rad');
  });

  it('hold at the speed that they are said to, by our law of speed', () => {
    const ref = values['rate.reference'] as number;
    const rows = takeOver({ ...plain, speedMps: 1.2 * ref }, { p: 0.1, forward: 0.1 }, 'roll', values, false);
    expect(at(rows, 'p')).toBeCloseTo(0.1 * 1.44, 6);
    expect(at(rows, 'forward')).toBeCloseTo(0.1 * 1.2, 6);
    // Rotors know none.
    expect(at(takeOver({ ...plain, speedMps: 20 }, { p: 0.1 }, 'roll', prepared(avocet), true), 'p')).toBe(
      0.1,
    );
  });

  it('count time by steps or beside P', () => {
    const steps = { ...plain, sums: 'steps', slopes: 'steps', loopHz: 500 } as const;
    const rows = takeOver(steps, { p: 0.1, i: 0.0004, d: 1.5 }, 'roll', prepared(avocet), true);
    expect(at(rows, 'i')).toBeCloseTo(0.2, 9);
    expect(at(rows, 'd')).toBeCloseTo(0.003, 9);
    const times = { ...plain, sums: 'time', slopes: 'time' } as const;
    const beside = takeOver(times, { p: 0.1, i: 0.5, d: 0.02 }, 'roll', prepared(avocet), true);
    expect(at(beside, 'i')).toBeCloseTo(0.2, 9);
    expect(at(beside, 'd')).toBeCloseTo(0.002, 9);
    // A time says nothing without P.
    expect(takeOver(times, { i: 0.5 }, 'roll', values, false)).toEqual([]);
    expect(cannotCarry(times, { i: 0.5 }, true)[0]).toMatch(/^Times beside P say nothing/);
  });

  it('count errors in shares of a stick, and outputs in counts', () => {
    const sticks = {
      ...plain,
      error: 'share',
      fullStickDps: 180,
      output: 'counts',
      fullOutput: 512,
    } as const;
    const rows = takeOver(sticks, { p: 40 }, 'roll', prepared(avocet), true);
    expect(at(rows, 'p')).toBeCloseTo(40 / 512 / Math.PI, 6);
  });

  it('level by a rate or a time, and filter by Hz, time or share of a step', () => {
    expect(at(takeOver(plain, { angle: 4 }, 'roll', values, false), 'angle')).toBe(0.25);
    expect(at(takeOver({ ...plain, angle: 'time' }, { angle: 0.4 }, 'roll', values, false), 'angle')).toBe(
      0.4,
    );
    expect(
      at(takeOver({ ...plain, filter: 'seconds' }, { filter: 0.002 }, 'roll', values, false), 'filter'),
    ).toBeCloseTo(79.58, 2);
    // The share that our own low-pass of that cut-off takes of each step.
    const low = new LowPass(80, 1 / 1000);
    const share = low.step(1);
    expect(
      at(takeOver({ ...plain, filter: 'share' }, { filter: share }, 'roll', values, false), 'filter'),
    ).toBeCloseTo(80, 3);
    expect(takeOver({ ...plain, filter: 'share' }, { filter: 1 }, 'roll', values, false)).toEqual([]);
  });

  it('say what is lost on the way', () => {
    expect(cannotCarry({ ...plain, slopeOfError: true, output: 'us' }, { p: 1, d: 1 }, false)).toHaveLength(
      3,
    );
    expect(cannotCarry({ ...plain, speedMps: 15 }, { p: 1 }, false)).toEqual([]);
  });

  it('are described by what the browser can keep', () => {
    for (const c of [...broughtConventions, plain]) expect(conventionSchema.safeParse(c).success).toBe(true);
    for (const wrong of [
      { ...plain, per: 0 },
      { ...plain, name: '' },
      { ...plain, error: 'rpm' },
      { ...plain, loopHz: 1e9 },
      null,
    ])
      expect(conventionSchema.safeParse(wrong).success).toBe(false);
  });
});
