import { describe, expect, it } from 'vitest';
import { avocet, flock, sandpiper, turnstone } from '#core/airframe/library.ts';
import { performanceOf } from '#core/airframe/performance.ts';
import { fellF7Model } from '#core/board/boards.ts';
import { type BenchTruth, truthFromSettings } from '#core/formats/benchTruth.ts';
import { compileConfig } from '#firmware/config.ts';
import { prepared } from '../../testing/aloft.ts';
import { mistakesOf } from './mistakes.ts';

const of = (a = turnstone, change = {}, turn = (t: BenchTruth): BenchTruth => t, built = a) =>
  mistakesOf(built, fellF7Model, compileConfig(prepared(a, change)), turn(truthFromSettings(a, prepared(a))));

describe('settings against the craft as it is built', () => {
  it('agree on every prepared craft of the flock', () => {
    for (const a of flock) expect(of(a)).toEqual([]);
  });

  it('tell a surface that answers the wrong way, and the setting', () => {
    const turned = of(turnstone, {}, (t) => ({
      ...t,
      pads: t.pads.map((p) => (p.actuator === 'elevator' ? { ...p, direction: -1 } : p)),
    }));
    expect(turned).toHaveLength(1);
    expect(turned[0]).toMatchObject({ cause: 'wiring', weight: 1 });
    expect(turned[0]!.text).toMatch(/elevator on output \d+ answers the wrong way/);
    expect(turned[0]!.settings[0]).toMatch(/^out\.\d+\.reversed$/);
  });

  it('tell parts on each other’s pads, and a part that nothing drives', () => {
    const swapped = of(avocet, {}, (t) => {
      const [a, b] = [t.pads[0]!, t.pads[1]!];
      return { ...t, pads: [{ ...a, output: b.output }, { ...b, output: a.output }, ...t.pads.slice(2)] };
    });
    expect(swapped).toHaveLength(2);
    const cut = of(avocet, {}, (t) => ({ ...t, pads: t.pads.slice(1) }));
    expect(cut[0]!.text).toMatch(/^Nothing drives the/);
  });

  it('tell rotors that turn against the mixer, a board that sits turned, sticks on other channels, another kind', () => {
    const flipped = {
      ...avocet,
      motors: avocet.motors.map((m) => ({
        ...m,
        spin: m.spin === 'clockwise' ? ('anticlockwise' as const) : ('clockwise' as const),
      })),
    };
    expect(of(avocet, {}, (t) => t, flipped)[0]).toMatchObject({ settings: ['mix.spinFlipped'] });
    expect(of(avocet, { 'mix.spinFlipped': true }, (t) => t, flipped)).toEqual([]);
    const mounted = of(turnstone, {}, (t) => ({ ...t, mount: { ...t.mount, yawDeg: 90 } }));
    expect(mounted[0]).toMatchObject({ cause: 'mounting', text: expect.stringContaining('90°') });
    const order = of(turnstone, {}, (t) => ({ ...t, channels: { ...t.channels, roll: 2, pitch: 1 } }));
    expect(order[0]!.settings).toEqual(['rx.roll.channel', 'rx.pitch.channel']);
    expect(of(sandpiper, { 'craft.kind': 'conventional' }).map((m) => m.settings[0])).toContain('craft.kind');
  });

  it('tell a balance away from the middle of the rotors', () => {
    const tail = { ...avocet, cgAftM: avocet.cgAftM + 0.03 };
    const found = of(avocet, {}, (t) => t, tail).find((m) => m.cause === 'balance')!;
    expect(found.text).toMatch(/30 mm behind the middle of the rotors/);
    expect(found.weight).toBeGreaterThan(0.5);
  });

  it('tell a balance behind the limit, and a craft that nothing makes fly', () => {
    const p = performanceOf(turnstone);
    const behind = { ...turnstone, cgAftM: p.neutralPointAftM + 0.1 * p.meanChordM };
    expect(of(turnstone, {}, (t) => t, behind)[0]).toMatchObject({ cause: 'balance', weight: 0.9 });
    const toy = { ...turnstone, motors: turnstone.motors.map((m) => ({ ...m, propDiameterM: 0.03 })) };
    expect(of(turnstone, {}, (t) => t, toy)[0]).toMatchObject({ cause: 'power' });
  });
});
