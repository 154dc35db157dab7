import { describe, expect, it } from 'vitest';
import { proofWorld } from '../../testing/proofWorld.ts';
import type { usualDevices } from '../formats/benchTruth.ts';
import { makeProof, type ProofWorld, stateOf } from './proofs.ts';
import { proofWords } from './proofWords.ts';
import type { Seen } from './seen.ts';

const world = proofWorld('turnstone');
const built = world.built!;
const set = (key: string, value: number | string | boolean): Partial<ProofWorld> => ({
  values: { ...world.values, [key]: value },
});
const build = (change: Partial<typeof usualDevices>): Partial<ProofWorld> => ({
  built: { ...built, ...change },
});
const turned = { rollDeg: 90, pitchDeg: 0, yawDeg: 0 };
const elsewhere: Partial<ProofWorld> = {
  site: { ...world.site, home: { ...world.site.home, lat: world.site.home.lat - 12 } },
};

/** What each proof of Sense is of, and what has to take it back: settings, the craft as it is built, the place. */
const cases: readonly (readonly [seen: Seen, ...stale: Partial<ProofWorld>[]])[] = [
  [
    { kind: 'mounted', rollDeg: 0, pitchDeg: 0, yawDeg: 0, fineDeg: 0.3, offDeg: 2 },
    set('mount.yaw', 90),
    build({ mount: turned }),
  ],
  [
    { kind: 'accel', chip: 1, before: 0.4, left: 0.01 },
    set('accel.1.offset.x', 0.4),
    build({ accels: [{ offset: [1, 0, 0], scale: [1, 1, 1] }] }),
  ],
  [{ kind: 'gyro-rest', chip: 1, bias: [0, 0, 0], density: 1e-4, drift: 0, seconds: 10, verdict: 'good' }],
  [{ kind: 'shake', rms: 0.01, throttle: 0.6, verdict: 'good' }, set('gyro.lowPass', 60)],
  [
    { kind: 'levelled', rollDeg: 0, pitchDeg: 3, leftDeg: 0.2 },
    set('mount.levelPitch', 5),
    build({ mount: turned }),
  ],
  [
    { kind: 'fix', start: 'warm', seconds: 12, used: 14, accuracyM: 1.4 },
    set('gnss.baud', '9600'),
    build({ gnssBaud: 9600 }),
  ],
  [
    { kind: 'compass', coverage: 1, residual: 0.01, strength: 51, headingErrorDeg: 1, lat: 61, lon: -12 },
    set('compass.x', 12),
    build({ iron: { x: 30, y: 0, z: 0, perAmp: 0 } }),
    elsewhere,
  ],
  [
    { kind: 'compass-current', perAmp: 0.1, mostA: 30, verdict: 'corrected' },
    set('compass.perAmp.x', 0.4),
    build({ iron: { x: 0, y: 0, z: 0, perAmp: 1 } }),
  ],
  [{ kind: 'volts', boardV: 16, meterV: 16 }, set('battery.scale', 1.1), build({ voltageScale: 1.1 })],
  [
    { kind: 'amps', boardA: 8, knownA: 8 },
    set('battery.currentScale', 1.2),
    build({ currentSense: { scale: 1.2, offset: 0 } }),
  ],
  [
    { kind: 'stick-ends', noiseUs: 1.2, deadbandUs: 4 },
    set('rx.deadband', 9),
    build({ transmitter: { ...built.transmitter, travel: 0.8 } }),
  ],
  [{ kind: 'charge', countedMah: 900, chargedMah: 905 }, set('battery.currentScale', 1.2)],
  [
    { kind: 'baro', noiseM: 0.1, driftMPerMin: 0, verdict: 'good' },
    build({ baroShielded: !built.baroShielded }),
  ],
  [
    { kind: 'slipstream', shiftM: 0.1, atCruiseM: 0.2, verdict: 'shielded' },
    build({ baroShielded: !built.baroShielded }),
  ],
  [{ kind: 'range', liftM: 1, offM: 0.01 }, set('range.scale', 1.1)],
  [{ kind: 'flow', scale: 1, quality: 0.9 }, set('flow.scale', 1.2), build({ flowScale: 1.2 })],
  [
    { kind: 'tube', zeroPa: 1, peakPa: 400, verdict: 'whole' },
    set('pitot.zero', 9),
    build({ pitotTube: 'leaks' }),
  ],
  [{ kind: 'tube-scale', factor: 1, sigma: 0.004 }, set('pitot.scale', 1.1), build({ pitotScale: 1.1 })],
];

describe('what was seen of sensors', () => {
  const named = cases.map(([seen, ...changes]) => ({ name: seen.kind, seen, changes }));

  it.each(named)('$name holds until what it rests on changes', ({ seen, changes }) => {
    const proof = makeProof(seen, world, '2026-06-01T09:00:00Z');
    const then = (change: Partial<ProofWorld>) => stateOf(proof, { ...world, ...change });
    expect(then({})).toBe('proven');
    // Nothing that has to do with it.
    expect(then(set('return.height', 77))).toBe('proven');
    for (const change of changes) expect(then(change), Object.keys(change).join()).toBe('stale');
    if (seen.kind !== 'tube-scale' && seen.kind !== 'stick-ends')
      expect(then({ board: { ...world.board, serial: 'FF7-9999-99' } })).toBe('stale');
    expect(proofWords(seen)!.length).toBeGreaterThan(5);
  });

  it.each([
    [{ kind: 'accel', chip: 1, before: 0.4, left: 0.2 }],
    [{ kind: 'shake', rms: 1, throttle: 0.6, verdict: 'balance' }],
    [{ kind: 'slipstream', shiftM: 3, atCruiseM: 6, verdict: 'shield-it' }],
    [{ kind: 'compass-current', perAmp: 0.9, mostA: 40, verdict: 'move-it' }],
    [{ kind: 'tube', zeroPa: 1, peakPa: 20, verdict: 'blocked' }],
  ] as const)('%j was seen to be wrong, and proves nothing', (seen) => {
    expect(stateOf(makeProof(seen, world, '2026-06-01T09:00:00Z'), world)).toBe('none');
  });
});
