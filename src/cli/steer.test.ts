import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';
import { heardCommandLine } from '../testing/heard.ts';
import { main } from './main.ts';

const heard = heardCommandLine();

const folder = mkdtempSync(join(tmpdir(), 'wanderweg-steer-'));
const file = (name: string, content: string) => {
  const path = join(folder, name);
  writeFileSync(path, content);
  return path;
};
async function run(...argv: string[]) {
  heard.said = '';
  const code = await main([...argv, '--json']);
  return { code, answer: JSON.parse(heard.said) };
}
const aileron = { armMm: 12, hornMm: 17, shaftAftMm: -62, chordMm: 46 };
const linkage = (more: object) => run('linkage', file('l.json', JSON.stringify({ ...aileron, ...more })));

describe('linkage', () => {
  it('tells degrees and millimetres over the travel', async () => {
    const { code, answer } = await linkage({});
    expect(code).toBe(0);
    expect(answer.points).toHaveLength(9);
    expect(answer.points[4]).toMatchObject({ us: 1500, deg: 0, edgeMm: 0 });
    // Over a long rod: asin(12/17 sin 45); a rod of 62 mm is not far from it.
    expect(Math.abs(answer.points[8].deg - 29.9)).toBeLessThan(3);
    expect(answer.points[8].edgeMm).toBeCloseTo(2 * 46 * Math.sin((answer.points[8].deg * Math.PI) / 360), 1);
    expect(answer.binds).toBe(false);
  });

  it('takes two readings for what arm and rod really are, and a middle that is off for wanting', async () => {
    const seen = [
      { us: 1000, edgeMm: -11 },
      { us: 2000, edgeMm: 23 },
    ];
    const { code, answer } = await linkage({ readings: seen });
    expect(answer.points[0].edgeMm).toBeCloseTo(-11, 1);
    expect(answer.points[8].edgeMm).toBeCloseTo(23, 1);
    expect(answer.middleDeg).toBeGreaterThan(5);
    expect(code).toBe(1);
    expect(await main(['linkage', file('m.json', JSON.stringify({ ...aileron, readings: seen }))])).toBe(1);
    expect(heard.said).toMatch(/turn the clevis before anything is trimmed/);
    const against = await linkage({
      readings: [
        { us: 1000, deg: 20 },
        { us: 2000, deg: -20 },
      ],
    });
    expect(against).toMatchObject({ code: 1, answer: { refused: expect.stringMatching(/other way/) } });
    const servo = { travelDeg: 45, lowUs: 1000, middleUs: 1500, highUs: 2000, longIsDown: false };
    const turned = await linkage({
      servo,
      readings: [
        { us: 1000, deg: 20 },
        { us: 2000, deg: -20 },
      ],
    });
    expect(turned.answer.points[0].deg).toBeCloseTo(20, 1);
  });

  it('finds an arm that is too long to bind, with the pulses between', async () => {
    const { code, answer } = await linkage({ armMm: 24, hornMm: 12 });
    expect(code).toBe(1);
    expect(answer.binds).toBe(true);
    expect(answer.freeFromUs).toBeGreaterThan(1000);
    expect(answer.freeToUs).toBeLessThan(2000);
    expect(answer.points[0].deg).toBeNull();
  });

  it('says in a sentence what it cannot read', async () => {
    for (const [content, why] of [
      ['{', /is not JSON/],
      ['{"armMm":12}', /hornMm is not right/],
      [JSON.stringify({ ...aileron, armMm: -3 }), /armMm is not right/],
      [JSON.stringify({ ...aileron, readings: [{ us: 1000, deg: 3 }] }), /readings is not right/],
    ] as const) {
      heard.complained = '';
      expect(await main(['linkage', file('bad.json', content)])).toBe(2);
      expect(heard.complained).toMatch(why);
    }
  });
});

describe('mix', () => {
  it('tells rows, what full commands do, and what is lost together', async () => {
    const { code, answer } = await run('mix', 'demo/dunlin.wanderweg.json', '--speed', '14');
    expect(code).toBe(0);
    expect(answer.rows.map((r: { drives: string }) => r.drives)).toContain('left-elevon');
    expect(answer).toMatchObject({ speedMps: 14, lacking: ['yaw'], wanting: [] });
    expect(answer.turns[0][0]).toBeGreaterThan(answer.turns[0][2]);
    expect(await main(['mix', 'demo/dunlin.wanderweg.json'])).toBe(0);
    expect(heard.said).toMatch(/% of roll is lost/);
  });

  it('wants an axis that nothing turns', async () => {
    const craft = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
    for (const [k, v] of Object.entries(craft.settings)) if (v === 'elevator') craft.settings[k] = 'nothing';
    const path = file('no-elevator.wanderweg.json', JSON.stringify(craft));
    expect(await run('mix', path)).toMatchObject({ code: 1, answer: { wanting: ['pitch'] } });
    expect(await main(['mix', path])).toBe(1);
    expect(heard.said).toMatch(/Nothing turns it about pitch/);
    expect(await main(['mix', path, '--speed', 'fast'])).toBe(2);
    expect(heard.complained).toMatch(/no airspeed/);
  });
});

describe('switches', () => {
  it('lists every combination with the mode that wins', async () => {
    const { code, answer } = await run('switches', 'demo/turnstone.wanderweg.json');
    expect(code).toBe(0);
    expect(answer.combinations).toHaveLength(27);
    expect(answer.combinations).toContainEqual({
      pulses: { 5: 2000, 6: 1500, 7: 2000 },
      armed: true,
      wins: 'return',
    });
    expect(await main(['switches', 'demo/turnstone.wanderweg.json'])).toBe(0);
    expect(heard.said).toMatch(/27 combinations, nothing that surprises/);
  });

  it('wants a return that the arming switch takes away', async () => {
    const craft = JSON.parse(readFileSync('demo/turnstone.wanderweg.json', 'utf8'));
    Object.assign(craft.settings, {
      'mode.return.channel': craft.settings['arm.channel'],
      'mode.return.from': 1300,
      'mode.return.to': 1600,
    });
    const { code, answer } = await run('switches', file('arm.wanderweg.json', JSON.stringify(craft)));
    expect(code).toBe(1);
    expect(answer.issues).toMatchObject([{ kind: 'disarms', asks: 'return' }]);
  });
});
