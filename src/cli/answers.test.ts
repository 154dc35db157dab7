import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();
const craft = 'demo/turnstone.wanderweg.json';

async function run(...argv: string[]) {
  heard.said = '';
  const code = await main([...argv, '--json']);
  return { code, answer: JSON.parse(heard.said) };
}

describe('answers', () => {
  it('tells rise, margin and what each part costs, of each axis', async () => {
    const { code, answer } = await run('answers', craft);
    expect(code).toBe(0);
    expect(answer.axes.map((a: { axis: string }) => a.axis)).toEqual(['roll', 'pitch', 'yaw']);
    const [roll] = answer.axes;
    expect(roll.step.riseS).toBeGreaterThan(0.02);
    expect(roll.step.riseS).toBeLessThan(0.3);
    expect(roll.gainLeft).toBeGreaterThan(2);
    const hover = (await run('answers', 'demo/avocet.wanderweg.json')).answer.axes[0].crossover;
    const spent = hover.shares.reduce((sum: number, s: { degrees: number }) => sum + s.degrees, 0);
    expect(hover.marginDeg + spent).toBeCloseTo(180, 0);
  });

  it('of one axis at one speed: slower air answers more slowly', async () => {
    const at = async (speed: string) =>
      (await run('answers', craft, '--axis', 'roll', '--speed', speed)).answer.axes[0];
    const [slow, fast] = [await at('11'), await at('24')];
    expect(slow.speedMps).toBe(11);
    expect(slow.push.degPerSAlone).toBeGreaterThan(0);
    expect(fast.step.halfwayS).toBeLessThan(slow.step.halfwayS);
  });

  it('exits 1 where it would ring', async () => {
    const wild = JSON.parse(readFileSync('demo/avocet.wanderweg.json', 'utf8'));
    wild.settings['rate.roll.p'] = 2;
    const path = join(mkdtempSync(join(tmpdir(), 'wanderweg-answers-')), 'wild.json');
    writeFileSync(path, JSON.stringify(wild));
    const { code, answer } = await run('answers', path);
    expect(code).toBe(1);
    expect(answer.wanting).toBe(true);
    expect(answer.axes[0].state).toBe('rings');
    heard.said = '';
    expect(await main(['answers', path])).toBe(1);
    expect(heard.said).toMatch(/It rings by itself, \d+\.\d times a second/);
  });

  it.each([
    [['answers', craft, '--axis', 'sideways'], /no axis/],
    [['answers', craft, '--speed', '900'], /no airspeed/],
    [['answers', 'none.json'], /none\.json/],
    [['filters', craft], /--at 5,20,80/],
    [['filters', craft, '--at', '5,x'], /is not understood/],
    [['filters', craft, '--at', '700'], /up to 450 Hz/],
  ])('exits 2 with a sentence for %j', async (argv, sentence) => {
    heard.complained = '';
    expect(await main(argv)).toBe(2);
    expect(heard.complained).toMatch(sentence);
  });
});

describe('filters', () => {
  it('tells dB, degrees and delay of each and of all together', async () => {
    const { code, answer } = await run('filters', craft, '--at', '5,80');
    expect(code).toBe(0);
    const [low, high] = answer.at;
    for (const at of [low, high]) {
      const sum = (key: string) =>
        at.filters.reduce((total: number, f: Record<string, number>) => total + f[key]!, 0);
      expect(at.chain.dB).toBeCloseTo(sum('dB'), 6);
      expect(at.chain.degrees).toBeCloseTo(sum('degrees'), 6);
    }
    expect(high.chain.dB).toBeLessThan(low.chain.dB);
    expect(low.chain.ms).toBeCloseTo((-1000 * low.chain.degrees) / 360 / 5, 9);
  });
});
