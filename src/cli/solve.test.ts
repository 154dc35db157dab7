import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { runCli } from '../testing/runCli.ts';

const dir = mkdtempSync(join(tmpdir(), 'wanderweg-'));
const wishes = (name: string, content: unknown) => {
  const path = join(dir, name);
  writeFileSync(path, typeof content === 'string' ? content : JSON.stringify(content));
  return path;
};

describe('wanderweg solve', () => {
  it('tells where everything goes', () => {
    const file = wishes('a.json', {
      outputs: [
        { name: 'left aileron', kind: 'servo-pwm', rateHz: 50 },
        { name: 'motor 1', kind: 'dshot600' },
      ],
      serial: [{ device: 'gnss', baud: 38400 }, { device: 'receiver-crsf' }],
      buses: [{ device: 'compass', kind: 'i2c' }],
    });
    const { code, out } = runCli('solve', '--board', 'massif-h7-b', file, '--json');
    expect(code).toBe(0);
    const answer = JSON.parse(out) as {
      feasible: boolean;
      assignment: { outputs: { output: number }[]; serial: { port: string }[] };
    };
    expect(answer.feasible).toBe(true);
    expect(answer.assignment.outputs).toHaveLength(2);
    expect(answer.assignment.serial.map((s) => s.port)).toEqual(['port 1', 'port 2']);
  });

  it('exits 1 with what collides and an offer', () => {
    const { code, out } = runCli(
      'solve',
      '--board',
      'massif-h7-b',
      'demo/wishes/massif-survey.json',
      '--json',
    );
    expect(code).toBe(1);
    const answer = JSON.parse(out) as { colliding: { device?: string }[]; offer: { change: string } };
    expect(answer.colliding.some((w) => w.device === 'flow')).toBe(true);
    expect(answer.offer.change).toBe('Connect the optical flow sensor by I2C instead of CAN.');
    expect(runCli('solve', '--board', 'massif-h7-a', 'demo/wishes/massif-survey.json').code).toBe(0);
  });

  it.each([
    ['a board that is not there', ['--board', 'pebble', wishes('b.json', {})], 'There is no board pebble'],
    ['no JSON', ['--board', 'fell-f7', wishes('c.json', 'hello')], 'is not JSON'],
    [
      'a wish that is none',
      ['--board', 'fell-f7', wishes('d.json', { outputs: [{ name: 'x', kind: 'steam' }] })],
      'outputs.0.kind',
    ],
  ])('exits 2 with a sentence for %s', (_name, args, words) => {
    const { code, err, out } = runCli('solve', ...args);
    expect([code, out]).toEqual([2, '']);
    expect(err).toContain(words);
  });
});
