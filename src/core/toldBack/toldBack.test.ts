import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { radioAlarms } from './alarms.ts';
import { toldFigures } from './figures.ts';
import { fittingRates, toldFit } from './fit.ts';
import { readTold, type Told, ToldReader, writeTold } from './frames.ts';
import { NarrowWay } from './schedule.ts';
import { ToldScreen } from './screen.ts';
import { frameBytes, toldIds, toldSensors } from './sensors.ts';

const told: Told = {
  ...{ lat: 61.905, lon: -12.43, groundMps: 15, courseRad: Math.PI / 2, heightM: 412, satellites: 14 },
  ...{ volts: 15.5, amps: 9.2, usedMah: 70_000, leftShare: 0.63, mode: 'return', climbMps: -1.25 },
  ...{ airspeedMps: 18, rollRad: -0.35, pitchRad: 0.05, yawRad: 2.5 },
};
const frame = (id: (typeof toldIds)[number], t: Partial<Told> = {}) => {
  const into = new Uint8Array(64);
  return into.slice(0, writeTold(id, { ...told, ...t }, into));
};
const hex = (bytes: Uint8Array) => [...bytes].map((b) => b.toString(16).padStart(2, '0')).join(' ');

/** CRC-8 bit by bit with the polynomial x^8+x^7+x^6+x^4+x^2+1 (0xD5), as its open description gives it; not ours by table. */
function crcByBits(bytes: Uint8Array): number {
  let crc = 0;
  for (const byte of bytes)
    for (let bit = 7; bit >= 0; bit--) {
      const out = ((crc >> 7) & 1) ^ ((byte >> bit) & 1);
      crc = ((crc << 1) & 0xff) ^ (out ? 0xd5 : 0);
    }
  return crc;
}

describe('frames that go back to the transmitter', () => {
  it('are those of the open description, byte for byte', () => {
    // Big endian, packed by another program: 619050000, -124300000, 540 tenths of km/h, 90.00 deg, 1412 m, 14.
    expect(hex(frame('place')).slice(0, 53)).toBe('c8 11 02 24 e5 f4 10 f8 97 55 20 02 1c 23 28 05 84 0e');
    // 155 tenths of a volt, 92 of an ampere, 70000 = 0x011170, 63 %.
    expect(hex(frame('battery')).slice(0, 32)).toBe('c8 0a 08 00 9b 00 5c 01 11 70 3f');
    expect(hex(frame('climb')).slice(0, 14)).toBe('c8 04 07 ff 83');
    // 18 m/s are 648 tenths of km/h.
    expect(hex(frame('air')).slice(0, 14)).toBe('c8 04 0a 02 88');
    expect(hex(frame('attitude')).slice(0, 26)).toBe('c8 08 1e 01 f4 f2 54 61 a8');
    expect(hex(frame('mode')).slice(0, 29)).toBe('c8 09 21 72 65 74 75 72 6e 00');
    for (const id of toldIds) {
      const f = frame(id);
      expect(f[f.length - 1], id).toBe(crcByBits(f.subarray(2, f.length - 1)));
      expect(f.length).toBeLessThanOrEqual(frameBytes(toldSensors.find((s) => s.id === id)!));
    }
  });

  it('say what was told, to the step that they travel in, whatever that is', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -90, max: 90, noNaN: true }),
        fc.double({ min: -180, max: 180, noNaN: true }),
        fc.double({ min: -1000, max: 9000, noNaN: true }),
        fc.double({ min: -3.14, max: 3.14, noNaN: true }),
        (lat, lon, heightM, yawRad) => {
          const p = readTold(frame('place', { lat, lon, heightM }))!;
          expect(Math.abs(p.lat! - lat)).toBeLessThan(1e-7);
          expect(Math.abs(p.lon! - lon)).toBeLessThan(1e-7);
          expect(Math.abs(p.heightM! - heightM)).toBeLessThanOrEqual(0.5);
          expect(Math.abs(readTold(frame('attitude', { yawRad }))!.yawRad! - yawRad)).toBeLessThanOrEqual(
            5e-5,
          );
        },
      ),
    );
    expect(readTold(frame('mode', { mode: 'a-mode-of-a-long-name' }))).toEqual({
      id: 'mode',
      mode: 'a-mode-of-a',
    });
    // What nobody knows travels as nought, and what is too much as the most.
    expect(readTold(frame('battery', { volts: Number.NaN, amps: 1e9, usedMah: -4 }))).toMatchObject({
      volts: 0,
      amps: 6553.5,
      usedMah: 0,
    });
  });

  it('are found in a wire full of other things; a bit that turned over costs that frame alone', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), fc.nat({ max: 10_000 }), (noise, turned) => {
        const clean = noise.filter((b) => b !== 0xc8);
        const heard: string[] = [];
        const reader = new ToldReader((h) => heard.push(h.id));
        const bad = frame('battery');
        bad[2 + (turned % (bad.length - 2))]! ^= 1 << (turned % 8);
        for (const byte of [...clean, ...frame('place'), ...bad, ...frame('climb'), ...frame('air')])
          reader.push(byte);
        expect(heard).toEqual(['place', 'climb', 'air']);
        expect(reader.faults).toBe(1);
      }),
    );
  });
});

describe('the narrow way', () => {
  it('never takes more than its room in any second, whatever is wanted', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: 6, max: 19 }), fc.double({ min: 0, max: 10, noNaN: true })), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.integer({ min: 19, max: 400 }),
        (wanted, room) => {
          const way = new NarrowWay(
            wanted.map((w) => w[0]),
            wanted.map((w) => w[1]),
            room,
          );
          const sent: number[] = [];
          const dt = 0.05;
          for (let k = 0; k < 400; k++) {
            let bytes = 0;
            for (let i = way.step(dt); i >= 0; i = way.step(0)) bytes += wanted[i]![0];
            sent.push(bytes);
          }
          for (let k = 0; k + 20 <= sent.length; k++) {
            const second = sent.slice(k, k + 20).reduce((a, b) => a + b, 0);
            expect(second).toBeLessThanOrEqual(room);
          }
          const all = sent.reduce((a, b) => a + b, 0);
          expect(all).toBeLessThanOrEqual(room * 20);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('keeps every rate where there is room, and shares the loss by rates where there is not', () => {
    const run = (room: number) => {
      const way = new NarrowWay([19, 12, 6], [1, 2, 5], room);
      const n = [0, 0, 0];
      for (let k = 0; k < 2000; k++) for (let i = way.step(0.05); i >= 0; i = way.step(0)) n[i]!++;
      return n.map((x) => x / 100);
    };
    for (const [i, hz] of run(200).entries()) expect(hz).toBeCloseTo([1, 2, 5][i]!, 0);
    const half = run(40);
    expect(half[0]! * 19 + half[1]! * 12 + half[2]! * 6).toBeLessThanOrEqual(40.5);
    for (const hz of half) expect(hz).toBeGreaterThan(0.3);
  });
});

describe('what these settings tell', () => {
  const values = demoValues('turnstone');

  it('fits, and is made to fit with place and battery last', () => {
    expect(toldFit(values)).toMatchObject({ wayBack: true, share: 1 });
    const much = { ...values, 'tell.attitude.rate': 10, 'tell.climb.rate': 10 };
    const fit = toldFit(much);
    expect(fit.share).toBeLessThan(1);
    const mended: Record<string, unknown> = { ...much, ...fittingRates(fit) };
    expect(toldFit(mended as typeof values).askedPerS).toBeLessThanOrEqual(fit.roomPerS);
    expect(mended['tell.place.rate']).toBe(1);
    const narrow = { ...values, 'tell.room': 20 };
    expect(toldFit({ ...narrow, ...fittingRates(toldFit(narrow)) }).askedPerS).toBeLessThanOrEqual(20);
    expect(toldFit({ ...values, 'rx.protocol': 'sbus' }).wayBack).toBe(false);
  });

  it('has alarms a little before the board acts, and says which it is deaf to', () => {
    const [low] = radioAlarms(values, 'metric');
    const cells = Number(values['battery.cells']);
    expect(low!.at).toBe(`below ${((Number(values['battery.low']) + 0.1) * cells).toFixed(1)} V`);
    expect(low!.deaf).toBeNull();
    expect(radioAlarms({ ...values, 'tell.battery.rate': 0 }, 'metric')[0]!.deaf).toBe('battery');
  });

  it('stands on a screen that keeps the last place when the craft is silent', () => {
    const screen = new ToldScreen();
    screen.receive(frame('place'), 3);
    screen.receive(frame('climb'), 4);
    screen.receive(Uint8Array.of(1, 2, 3), 60);
    const [place] = screen.shown(63);
    expect(place).toMatchObject({ id: 'place', ageS: 60, told: { satellites: 14 } });
    expect(toldFigures('place', place!.told, 'metric')[0]).toEqual({ name: 'latitude', text: '61.90500' });
    expect(toldFigures('battery', {}, 'metric').map((f) => f.text)).toEqual(['–', '–', '–', '–']);
    expect(screen.faults).toBe(0);
  });

  it('stands there in the units that are read, and never without its name', () => {
    const texts = (units: 'metric' | 'imperial' | 'aviation', id: (typeof toldIds)[number]) =>
      toldFigures(id, told, units).map((f) => f.text);
    expect(texts('metric', 'place').slice(2, 4)).toEqual(['412 m', '15 m/s']);
    // 412 m and 15 m/s by the definitions of foot, mile and knot.
    expect(texts('imperial', 'place').slice(2, 4)).toEqual(['1352 ft', '33.6 mph']);
    expect(texts('aviation', 'place').slice(2, 4)).toEqual(['1352 ft', '29.2 kt']);
    expect(texts('aviation', 'attitude').slice(0, 2)).toEqual(['-20°', '3°']);
    expect(texts('metric', 'battery').at(-1)).toBe('63 %');
    for (const id of toldIds) {
      const figures = toldFigures(id, told, 'metric');
      expect(new Set(figures.map((f) => f.name)).size).toBe(figures.length);
      expect(figures.every((f) => f.text !== '–')).toBe(true);
    }
  });
});
