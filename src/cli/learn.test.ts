import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { attitudeOfMount } from '#core/calibration/mounting.ts';
import { attitudeOf, poseIds, poses } from '#core/calibration/poses.ts';
import { toBody } from '#core/math/quaternion.ts';
import { Noise } from '#core/math/random.ts';
import { GRAVITY } from '#core/math/scalar.ts';
import { magneticField } from '#core/navigation/magneticField.ts';
import { ByteQueue } from '#core/sensors/byteQueue.ts';
import { writeCrsfChannels } from '#core/sensors/receiverFrames.ts';
import { torvholm } from '../testing/demoCraft.ts';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();

const folder = mkdtempSync(join(tmpdir(), 'wanderweg-learn-'));
const file = (name: string, content: string | Uint8Array) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};

const noise = new Noise(3);
const MOUNT = attitudeOfMount({ rollDeg: -90, pitchDeg: 0, yawDeg: -90 });
const OFFSET = [0.21, -0.34, 0.15];
const SCALE = [1.012, 0.991, 1.018];

/** What a turned, untaught chip says in an attitude, two seconds long at 100 Hz. */
function held(step: string, rollDeg: number, pitchDeg: number, fromS: number): string[] {
  const f = new Float64Array([0, 0, -GRAVITY]);
  toBody(f, Float64Array.from(attitudeOf(rollDeg, pitchDeg, 23)), f);
  toBody(f, MOUNT, f);
  return Array.from({ length: 200 }, (_, i) => {
    const a = [0, 1, 2].map((k) => f[k]! / SCALE[k]! + OFFSET[k]! + 0.03 * noise.next());
    return [fromS + i * 0.01, ...a, 0.1, -0.2, 0.1, step].join(',');
  });
}
const HEAD = 't_s,ax_mps2,ay_mps2,az_mps2,gx_dps,gy_dps,gz_dps,step';
const gestures = () => [
  HEAD,
  ...held('flat', 0, 0, 0),
  ...held('nose-up', 0, 35, 5),
  ...held('right-wing-down', 30, 0, 10),
];

async function learn(what: string, content: string, ...more: string[]) {
  heard.said = '';
  const code = await main(['learn', what, file(`${what}.csv`, content), '--json', ...more]);
  return { code, answer: code < 2 ? JSON.parse(heard.said) : null };
}

describe('learn', () => {
  it('finds the mounting of a board on edge, and confirms it by the wing', async () => {
    const { code, answer } = await learn('mounting', gestures().join('\n'));
    expect(code).toBe(0);
    expect(answer.edits).toEqual({ 'mount.roll': -90, 'mount.pitch': 0, 'mount.yaw': -90 });
    expect(answer.figures.fineDeg).toBeLessThan(4);
    expect(answer.figures.confirmed).toBe(1);
  });

  it('takes gestures of other names by their order', async () => {
    const other = [HEAD, ...held('1', 0, 0, 0), ...held('2', 0, 35, 5), ...held('3', 30, 0, 10)];
    const { code, answer } = await learn('mounting', other.join('\n'));
    expect(code).toBe(0);
    expect(answer.edits).toEqual({ 'mount.roll': -90, 'mount.pitch': 0, 'mount.yaw': -90 });
    expect(answer.figures.confirmed).toBe(1);
  });

  it('refuses the left wing for the right one', async () => {
    const wrong = [
      HEAD,
      ...held('flat', 0, 0, 0),
      ...held('nose-up', 0, 35, 5),
      ...held('right-wing-down', -30, 0, 10),
    ];
    const { code, answer } = await learn('mounting', wrong.join('\n'));
    expect(code).toBe(1);
    expect(answer.refused).toMatch(/left wing went down/);
  });

  it('teaches the accelerometer from six poses, and refuses one that is missing', async () => {
    const rows = poseIds.map((id, i) => held(id, poses[id].rollDeg, poses[id].pitchDeg, 5 * i));
    const { code, answer } = await learn('poses', [HEAD, ...rows.flat()].join('\n'));
    expect(code).toBe(0);
    expect(answer.figures.worstAfter).toBeLessThan(0.02);
    for (const [i, k] of (['x', 'y', 'z'] as const).entries()) {
      expect(answer.edits[`accel.1.offset.${k}`]).toBeCloseTo(OFFSET[i]!, 1);
      expect(answer.edits[`accel.1.scale.${k}`]).toBeCloseTo(SCALE[i]!, 2);
    }
    const without = await learn('poses', [HEAD, ...rows.slice(0, 5).flat()].join('\n'));
    expect(without.code).toBe(1);
    expect(without.answer.refused).toMatch(/pose back is missing|is missing/);
  });

  it('says what level means, the mounting found from the same file', async () => {
    const rows = [...gestures(), ...held('level', 0, 3.4, 15)];
    const { code, answer } = await learn('level', rows.join('\n'));
    expect(code).toBe(0);
    // The untaught chip's offsets turn gravity by two degrees here; with the six poses it is taught first.
    expect(Math.abs(answer.edits['mount.levelPitch'] - 3.4)).toBeLessThan(3);
    const six = poseIds.map((id, i) => held(id, poses[id].rollDeg, poses[id].pitchDeg, 20 + 5 * i));
    const taught = await learn('level', [HEAD, ...six.flat(), ...held('level', 0, 3.4, 60)].join('\n'));
    expect(Math.abs(taught.answer.edits['mount.levelPitch'] - 3.4)).toBeLessThan(0.3);
    expect(Math.abs(taught.answer.edits['mount.levelRoll'])).toBeLessThan(0.3);
    // No other gesture stands in for the one that is level.
    const without = await learn('level', gestures().join('\n'));
    expect(without.code).toBe(1);
    expect(without.answer.refused).toMatch(/level/);
  });

  it('fits a compass and takes the place from the site', async () => {
    const f = magneticField(torvholm.home.lat, torvholm.home.lon, 0, torvholm.year);
    const rows = Array.from({ length: 1200 }, (_, i) => {
      const b = new Float64Array([f.northNt / 1000, f.eastNt / 1000, f.downNt / 1000]);
      const g = new Float64Array([0, 0, -GRAVITY]);
      const q = Float64Array.from(
        attitudeOf(0.131 * 360 * i * 0.05, 83 * Math.sin(0.23 * i * 0.05), 0.083 * 360 * i * 0.05),
      );
      toBody(b, q, b);
      toBody(g, q, g);
      return [i * 0.05, ...g, b[0]! + 14, b[1]! - 9, b[2]! + 21 + 0.3 * noise.next()].join(',');
    });
    const text = ['t_s,ax_mps2,ay_mps2,az_mps2,mx_ut,my_ut,mz_ut', ...rows].join('\n');
    const site = 'demo/sites/torvholm.wanderweg-site.json';
    const { code, answer } = await learn('compass', text, '--site', site);
    expect(answer.refused).toBeUndefined();
    expect(code).toBe(0);
    expect(answer.edits['compass.x']).toBeCloseTo(14, 0);
    expect(answer.edits['compass.z']).toBeCloseTo(21, 0);
    expect(answer.edits['compass.declination']).toBeDefined();
    expect(answer.figures.headingErrorDeg).toBeLessThan(1.5);
    // Half a turn is not enough.
    const few = await learn(
      'compass',
      ['t_s,ax_mps2,ay_mps2,az_mps2,mx_ut,my_ut,mz_ut', ...rows.slice(0, 80)].join('\n'),
    );
    expect(few.code).toBe(1);
    expect(few.answer.refused).toMatch(/facets|sides/);
  });

  it('scales voltage and current', async () => {
    const volts = await learn('voltage', 'voltage_v,meter_v\n15.42,16.04\n15.43,16.04\n');
    expect(volts.answer.edits['battery.scale']).toBeCloseTo(1.04, 3);
    const amps = await learn('current', 'current_a,known_a\n0.9,0.4\n0.9,0.4\n8.5,8.4\n8.5,8.4\n');
    expect(amps.answer.edits).toEqual({ 'battery.currentScale': 1.055, 'battery.currentOffset': 0.5 });
    // What is known may be the step's name.
    const steps = await learn('current', 'current_a,step\n0.9,0.4\n8.5,8.4\n');
    expect(steps.answer.edits).toEqual(amps.answer.edits);
    expect((await learn('voltage', 'voltage_v,meter_v\n15.42,4.2\n')).code).toBe(1);
  });

  it('says in a sentence what it cannot read', async () => {
    for (const [content, why] of [
      ['', /names no column with a unit/],
      ['a,b\n1,2', /names no column with a unit/],
      ['t_s,ax_mps2\n0,west', /Line 2 has "west"/],
      ['t_s,t_ms\n0,1', /two columns for t/],
      ['t_s,ax_mps2\n', /has no samples/],
    ] as const) {
      heard.complained = '';
      expect((await learn('mounting', content)).code).toBe(2);
      expect(heard.complained).toMatch(why);
    }
    expect(await main(['learn', 'dancing', file('x.csv', 't_s\n0')])).toBe(2);
    expect(heard.complained).toMatch(/no lesson dancing/);
  });
});

describe('hear', () => {
  it('knows a GNSS receiver, a radio, a wrong speed and silence', async () => {
    const line = '$GNGGA,101200.00,6012.0000,N,00612.0000,E,1,09,0.9,42.0,M,0.0,M,,';
    const sum = [...line.slice(1)].reduce((x, c) => x ^ c.charCodeAt(0), 0);
    const sentence = `${line}*${sum.toString(16).toUpperCase().padStart(2, '0')}\r\n`;
    expect(await main(['hear', file('a.bin', sentence.repeat(20))])).toBe(0);
    expect(heard.said).toMatch(/20 whole.*bytes a solution/);

    heard.said = '';
    const queue = new ByteQueue();
    for (let k = 0; k < 20; k++) writeCrsfChannels(queue, new Array(16).fill(1500));
    const frames: number[] = [];
    while (queue.length > 0) frames.push(queue.shift());
    expect(await main(['hear', file('b.bin', Uint8Array.from(frames))])).toBe(1);
    expect(heard.said).toMatch(/Frames of CRSF, 20/);

    heard.said = '';
    const garbage = Uint8Array.from({ length: 400 }, () =>
      Math.floor(256 * Math.abs(Math.sin(noise.next() * 99))),
    );
    expect(await main(['hear', file('c.bin', garbage), '--json'])).toBe(1);
    expect(JSON.parse(heard.said).kind).toBe('garbage');
    heard.said = '';
    expect(await main(['hear', file('d.bin', '')])).toBe(1);
    expect(heard.said).toMatch(/Nothing was recorded/);
    expect(await main(['hear', join(folder, 'none.bin')])).toBe(2);
  });
});
