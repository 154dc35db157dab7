import { describe, expect, it } from 'vitest';
import { compileConfig } from '#firmware/config.ts';
import { FlightController } from '#firmware/flightController.ts';
import { Readings } from '#firmware/readings.ts';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { Random } from '../math/random.ts';
import { writeCrsfChannels } from '../sensors/receiverFrames.ts';
import type { Values } from '../settings/catalogue.ts';
import { type ModeId, ofKind, switchedModes } from './modes.ts';
import {
  bandAround,
  bandsOf,
  decider,
  enumerate,
  inParts,
  inputsOf,
  inTheAir,
  issuesOf,
  maskAt,
  positionsOf,
  type SwitchInput,
} from './switchMap.ts';

const random = new Random(1300);
const among = <T>(list: readonly T[]) => list[Math.floor(random.uniform() * list.length)]!;

/** Bands of every kind on up to `channels` switches, off the pulses by more than their hysteresis. */
function anyBands(channels: number): Values {
  const settings: Record<string, number> = {};
  for (const id of ['arm', ...switchedModes.map((m) => `mode.${m}`)]) {
    const from = 835 + 50 * Math.floor(25 * random.uniform());
    settings[`${id}.channel`] = random.uniform() < 0.25 ? 0 : 5 + Math.floor(channels * random.uniform());
    settings[`${id}.from`] = from;
    settings[`${id}.to`] = Math.min(2200, from + 50 + 50 * Math.floor(20 * random.uniform()));
  }
  return settings;
}
const kinds = [
  [1000, 2000],
  [1000, 1500, 2000],
  [1000, 1200, 1400, 1600, 1800, 2000],
];
const anyInputs = (channels: readonly number[]): SwitchInput[] =>
  channels.map((channel) => ({ channel, positions: among(kinds) }));

describe('the map of the switches', () => {
  it('is the firmware’s own decision in every combination, 10,000 set-ups', { timeout: 120_000 }, () => {
    const base = { turnstone: demoValues('turnstone'), avocet: demoCraft('avocet').settings };
    let cells = 0;
    for (let go = 0; go < 10_000; go++) {
      const rotorcraft = go % 4 === 0;
      const values = { ...base[rotorcraft ? 'avocet' : 'turnstone'], ...anyBands(3), 'rx.lossBelow': 0 };
      const bands = bandsOf(values);
      const map = enumerate(bands, anyInputs([...new Set(bands.map((b) => b.channel))]));
      const readings = new Readings();
      const fc = new FlightController(compileConfig(values), 0.001);
      const channels = new Float64Array(16).fill(1500);
      // All of a small map; of a large one, so many that every band is crossed both ways.
      const most = Math.min(map.masks.length, 24);
      for (let k = 0; k < most; k++) {
        const cell = most === map.masks.length ? k : Math.floor(random.uniform() * map.masks.length);
        positionsOf(map, cell).forEach((p, i) => {
          channels[map.inputs[i]!.channel - 1] = map.inputs[i]!.positions[p]!;
        });
        writeCrsfChannels(readings.receiver, channels);
        // On the bench with nothing around it: what can be had is what the firmware itself says.
        for (let n = 0; n < 20; n++) fc.step(readings);
        const cannot = fc.unavailable().map((u) => u.mode);
        const decide = decider({ rotorcraft, cannot, over: [] });
        if (decide(map.masks[cell]!) !== fc.mode)
          throw new Error(
            `${go}: ${fc.mode}, not ${decide(map.masks[cell]!)} ${JSON.stringify([...channels])} ${JSON.stringify(bands)}`,
          );
        cells++;
      }
    }
    expect(cells).toBeGreaterThan(100_000);
  });

  it('has every combination once, as counting by hand has them', () => {
    const bands = bandsOf({ ...demoValues('turnstone'), ...anyBands(8) });
    const map = enumerate(bands, anyInputs([...new Set(bands.map((b) => b.channel))]));
    const seen = new Set<string>();
    map.masks.forEach((mask, c) => {
      const at = positionsOf(map, c);
      seen.add(at.join());
      for (const b of bands) {
        const i = map.inputs.findIndex((x) => x.channel === b.channel);
        const us = map.inputs[i]!.positions[at[i]!]!;
        const k = b.asks === 'arm' ? switchedModes.length : switchedModes.indexOf(b.asks);
        expect((mask >> k) & 1).toBe(us >= b.fromUs && us <= b.toUs ? 1 : 0);
      }
    });
    expect(seen.size).toBe(map.inputs.reduce((n, i) => n * i.positions.length, 1));
  });
});

describe('a dial', () => {
  it('can ask for nothing that is not among its parts, whatever waits on its channel', () => {
    const random = new Random(77);
    for (let n = 0; n < 300; n++) {
      const bands = switchedModes.slice(0, 1 + Math.floor(6 * random.uniform())).map((asks) => {
        const fromUs = 10 * Math.round(90 + 100 * random.uniform());
        return { asks, channel: 9, fromUs, toUs: fromUs + 60 + 10 * Math.round(40 * random.uniform()) };
      });
      const [input] = inputsOf(bands, [{ channel: 9, positions: [1000, 2000], dial: true }]);
      const known = new Set(input!.positions.map((us) => maskAt(bands, 9, us)));
      let missed = 0;
      for (let us = 1000; us <= 2000; us++) if (!known.has(maskAt(bands, 9, us))) missed++;
      // Parts that nobody can hit are left out: two edges nearer than 40 us.
      expect(missed).toBeLessThan(40 * 2 * bands.length);
      expect(input!.positions.length).toBeGreaterThanOrEqual(2);
    }
  });

  it('is taken by its thirds where nothing waits on it, and rests on no edge', () => {
    const dial = { channel: 9, positions: [1000, 2000], dial: true };
    expect(inParts([], dial).positions).toEqual([1167, 1500, 1833]);
    const bands = [{ asks: 'loiter' as const, channel: 9, fromUs: 1500, toUs: 2200 }];
    const map = enumerate(bands, inputsOf(bands, [dial]));
    expect(issuesOf(map, demoValues('turnstone'), false).filter((i) => i.kind === 'edge')).toEqual([]);
  });
});

describe('what surprises about switches', () => {
  const usual = demoValues('turnstone');
  const of = (change: Values, known?: readonly SwitchInput[]) => {
    const values = { ...usual, ...change };
    const bands = bandsOf(values);
    return issuesOf(enumerate(bands, inputsOf(bands, known)), values, false);
  };
  const kinds = (change: Values, known?: readonly SwitchInput[]) =>
    of(change, known).map((i) => `${i.kind} ${i.asks ?? i.channel}`);

  it('is nothing on the demo as it was mended', () => {
    expect(of({})).toEqual([]);
  });

  it('is a mode that waits for a position which the switch has not', () => {
    const change = { 'mode.height.channel': 8, 'mode.height.from': 1300, 'mode.height.to': 1700 };
    expect(kinds(change)).toEqual([]);
    expect(of(change, [{ channel: 8, positions: [1000, 2000] }])).toMatchObject([
      { kind: 'loose', asks: 'height', sentence: expect.stringContaining('knows only 1000 and 2000') },
    ]);
  });

  it('is a mode that another always beats, with the other’s name', () => {
    const same = {
      'mode.height.channel': 9,
      'mode.height.from': 1700,
      'mode.height.to': 2200,
      'mode.loiter.channel': 9,
      'mode.loiter.from': 1700,
      'mode.loiter.to': 2200,
    };
    expect(of(same)).toMatchObject([{ kind: 'beaten', asks: 'height' }]);
    expect(of(same)[0]!.sentence).toMatch(/so is (Return home or )?Loiter here/);
  });

  it('is a return that stops the motors first', () => {
    const arm = usual['arm.channel']!;
    const change = {
      'mode.return.channel': arm,
      'mode.return.from': 1300,
      'mode.return.to': 1690,
      'arm.from': 1700,
    };
    expect(kinds(change)).toContain('disarms return');
  });

  it('is a mode without its sensor, with what would give it', () => {
    const ports = Object.keys(usual).filter((k) => /^port\.\d+\.use$/.test(k) && usual[k] === 'gnss');
    const without = of(Object.fromEntries(ports.map((k) => [k, 'free'])));
    expect(without).toMatchObject([{ kind: 'cannot', asks: 'return' }]);
    expect(without[0]!.sentence).toMatch(/Needs a/);
  });

  it('is a hole between two positions, and a rest on an edge', () => {
    const hole = {
      'mode.course.channel': 9,
      'mode.course.from': 900,
      'mode.course.to': 1100,
      'mode.loiter.channel': 9,
      'mode.loiter.from': 1900,
      'mode.loiter.to': 2100,
    };
    expect(kinds(hole)).toEqual(['gap 9']);
    expect(kinds({ ...hole, 'mode.loiter.from': 1495 })).toContain('edge loiter');
  });

  it('is not between bands that are laid around the positions', () => {
    for (const positions of [
      [1000, 2000],
      [988, 1500, 2012],
      [1000, 1200, 1400, 1600, 1800, 2000],
    ]) {
      for (let p = 0; p < positions.length; p++) {
        const { fromUs, toUs } = bandAround(positions, p, p);
        positions.forEach((us, q) => {
          expect(us >= fromUs && us <= toUs).toBe(p === q);
          // Half of the way to the next, to either side.
          expect(Math.min(Math.abs(us - fromUs), Math.abs(us - toUs))).toBeGreaterThan(50);
        });
      }
    }
  });

  it('knows what cannot be had in the air', () => {
    const none = inTheAir(
      Object.fromEntries(Object.entries(usual).filter(([k]) => !k.startsWith('port'))),
      true,
    );
    const rotors = switchedModes.filter((m) => ofKind(m, true));
    const cannot = new Set<ModeId>(none.cannot);
    expect(rotors.filter((m) => !cannot.has(m) && m !== 'launch')).toEqual([
      'rate',
      'horizon',
      'level',
      'height',
    ]);
  });
});
