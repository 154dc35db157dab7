import { describe, expect, it } from 'vitest';
import { fellF7Model, massifH7B } from './boards.ts';
import { loose, moved, placed, ported } from './placing.ts';
import { solve } from './solve.ts';
import type { Wishes } from './wishes.ts';

const wishes: Wishes = {
  outputs: [
    { name: 'elevator', kind: 'servo-pwm', rateHz: 50, output: 3 },
    { name: 'rudder', kind: 'servo-pwm', rateHz: 50, output: 4 },
    { name: 'flap', kind: 'servo-pwm', rateHz: 50 },
  ],
  serial: [
    { device: 'gnss', port: 'port 3' },
    { device: 'telemetry', port: 'port 4' },
  ],
  buses: [{ device: 'airspeed', kind: 'i2c', bus: 'I2C 2' }],
  linkPort: 'port 1',
};

describe('what a person says about places', () => {
  it('puts a wish on a pad, and frees what was wished there', () => {
    const next = placed(wishes.outputs, wishes.outputs[0]!, 4);
    expect(next.map((o) => o.output)).toEqual([4, undefined, undefined]);
    expect(placed(wishes.outputs, wishes.outputs[0]!, 0).map((o) => o.output)).toEqual([
      undefined,
      4,
      undefined,
    ]);
  });

  it('does the same with ports', () => {
    expect(ported(wishes.serial, wishes.serial[0]!, 'port 4').map((s) => s.port)).toEqual([
      'port 4',
      undefined,
    ]);
    expect(ported(wishes.serial, wishes.serial[1]!, '').map((s) => s.port)).toEqual(['port 3', undefined]);
  });

  it('draws a wire from where the solver put it', () => {
    const a = solve(fellF7Model, wishes)!;
    const flap = a.outputs.find((o) => o.wish.name === 'flap')!.output;
    expect(moved(wishes, a, { output: flap }, { output: 8 }).outputs[2]!.output).toBe(8);
    expect(moved(wishes, a, { port: 'port 3' }, { port: 'port 5' }).serial[0]!.port).toBe('port 5');
    // A pad is no port, and from an empty place nothing comes.
    expect(moved(wishes, a, { output: flap }, { port: 'port 5' })).toBe(wishes);
    expect(moved(wishes, a, { output: 9 }, { output: 8 })).toBe(wishes);
  });

  it('lets everything go for another board but the link to here', () => {
    const free = loose(wishes, massifH7B);
    expect(free.outputs.every((o) => o.output === undefined)).toBe(true);
    expect(free.serial.every((s) => s.port === undefined)).toBe(true);
    expect(free.buses.every((b) => b.bus === undefined)).toBe(true);
    expect(free.linkPort).toBe('port 1');
    expect(solve(massifH7B, free)!.serial.map((s) => s.port)).not.toContain('port 1');
  });
});
