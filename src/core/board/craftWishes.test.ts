import { describe, expect, it } from 'vitest';
import { prepared } from '../../testing/aloft.ts';
import { actuatorsOf } from '../airframe/airframe.ts';
import { flock } from '../airframe/library.ts';
import { fellF7Model } from './boards.ts';
import { craftWishes, wiringEdits } from './craftWishes.ts';
import { fellF7 } from './fellF7.ts';
import { solve } from './solve.ts';

describe('what a craft wants of a board', () => {
  it.each(flock.map((a) => [a.name, a] as const))('%s: stays wired as it is', (_name, airframe) => {
    const values = prepared(airframe);
    const wishes = craftWishes(airframe, values, fellF7);
    expect(wishes.outputs).toHaveLength(actuatorsOf(airframe).length);
    const a = solve(fellF7Model, wishes)!;
    expect(a.moved).toBe(0);
    const edits = wiringEdits(airframe, a, fellF7);
    for (const [key, value] of Object.entries(edits)) expect(`${key} ${value}`).toBe(`${key} ${values[key]}`);
  });

  it('is free to lie anywhere on a board it is not on yet', () => {
    const wishes = craftWishes(flock[0], prepared(flock[0]), null);
    expect(wishes.linkPort).toBeUndefined();
    expect(wishes.outputs.every((o) => o.output === undefined)).toBe(true);
    expect(solve(fellF7Model, wishes)).not.toBeNull();
  });

  it('is set on the board as it was laid out: frames, rates and ports, the link left alone', () => {
    const values = prepared(flock[0]);
    const wishes = craftWishes(flock[0], values, fellF7);
    const motors = wishes.outputs.map((o) =>
      /motor/.test(o.name) ? { name: o.name, kind: 'dshot600' as const } : { ...o, rateHz: 100 },
    );
    const a = solve(fellF7Model, {
      ...wishes,
      outputs: motors,
      serial: [...wishes.serial, { device: 'telemetry' }],
    })!;
    const edits = wiringEdits(flock[0], a, fellF7);
    const sends = fellF7.pads.flatMap((p) => {
      const drives = String(edits[`out.${p.output}.drives`]);
      return drives === 'nothing' ? [] : [[/motor/.test(drives), edits[`timer.${p.timer}.sends`]]];
    });
    for (const [motor, what] of sends) expect(what).toBe(motor ? 'dshot600' : 'pulses');
    expect(edits['port.1.use']).toBe('link');
    const uses = fellF7.ports.map((_, i) => edits[`port.${i + 1}.use`]);
    expect([...uses].sort()).toEqual(['free', 'free', 'gnss', 'link', 'receiver', 'telemetry']);
    // Read back from the settings, the same is wanted again, in the same place.
    const again = craftWishes(flock[0], { ...values, ...edits }, fellF7);
    expect(again.serial).toHaveLength(3);
    expect(solve(fellF7Model, again)!.moved).toBe(0);
  });
});
