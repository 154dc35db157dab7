import { describe, expect, it } from 'vitest';
import type { Asked } from '#core/answers/outer/manoeuvres.ts';
import { newTrace, TRACE_S, type Trace } from '#core/answers/outer/trace.ts';
import { DEG } from '#core/math/scalar.ts';
import { titleOf, traceWords } from './words.ts';

const asked: Asked = {
  bank: 20 * DEG,
  height: 20,
  speed: 3,
  off: 60 * DEG,
  windMps: 6,
  gustMps: 1,
  letGoS: 5,
  seconds: 10,
};

/** Ten seconds whose lines are told by functions of the time. */
function trace(lines: Partial<Record<keyof Trace, (t: number) => number>>): Trace {
  const made = newTrace(10);
  for (const [name, of] of Object.entries(lines))
    made[name as keyof Trace].forEach((_, k, all) => {
      all[k] = of(k * TRACE_S);
    });
  return made;
}

const words = (id: Parameters<typeof traceWords>[0], t: Trace, radius = 50) =>
  traceWords(id, asked, t, radius, 'metric').replaceAll(/[\u00a0\u202f\u2009]/g, ' ');

describe('what a manoeuvre is called', () => {
  it('says what is asked, in the units that are chosen', () => {
    expect(titleOf('bank', asked, 'metric')).toBe('20° of lean');
    expect(titleOf('height', asked, 'metric')).toMatch(/^20.m higher$/);
    expect(titleOf('height', asked, 'imperial')).toMatch(/^66.ft higher$/);
    expect(titleOf('path', asked, 'imperial')).toBe('Onto a line, 60° off it');
  });
});

describe('what a manoeuvre came to', () => {
  it('is when it was there and how far over', () => {
    expect(words('bank', trace({ bank: (t) => asked.bank * Math.min(1, t / 2) }))).toBe('there in 1.8 s');
    expect(
      words('bank', trace({ bank: (t) => asked.bank * (t < 1 ? t : 1 + 0.25 * Math.exp(-(t - 1))) })),
    ).toBe('there in 2 s, 25 % over');
    expect(words('bank', trace({ bank: () => 0.5 * asked.bank }))).toBe('not there in that time');
  });

  it('tells what height costs a wing in speed, and of rotors nothing', () => {
    const up = (t: number) => Math.min(20, 4 * t);
    expect(words('height', trace({ height: up, speed: (t) => 15 - (t > 2 && t < 4 ? 1.2 : 0) }))).toBe(
      'there in 4.5 s; speed falls by 1.2 m/s',
    );
    expect(words('height', trace({ height: up, speed: (t) => (t > 2 ? 2 : 0) }))).toBe('there in 4.5 s');
    expect(words('speed', trace({ speed: (t) => Math.min(3, t), height: (t) => 0.06 * t }))).toBe(
      'there in 2.7 s; height rises by 0.6 m',
    );
  });

  it('tells of a line how long, how wide and how far beyond', () => {
    const east = (t: number) => (t < 3 ? 10 : t < 6 ? -4 : 0);
    expect(words('path', trace({ east }))).toBe('on it after 6 s, 10 m wide, 4 m beyond it');
    expect(words('path', trace({ east: () => 8 }))).toBe('not on it in that time, 8 m wide');
  });

  it('tells of a circle how far off it and on which side', () => {
    const round = (by: number) =>
      trace({ north: (t) => (50 + by) * Math.cos(t), east: (t) => (50 + by) * Math.sin(t) });
    expect(words('circle', round(4))).toBe('once it is round, within 4 m of it, farthest outside');
    expect(words('circle', round(-3))).toBe('once it is round, within 3 m of it, farthest inside');
  });

  it('tells of rotors let go of how far they go on, and of a place how far they wander', () => {
    const go = trace({ speed: (t) => (t < 5 ? Math.min(3, t) : 0), north: (t) => Math.min(12, 2 * t) });
    expect(words('go', go)).toBe('up to it in 2.7 s; then stops within 2 m');
    expect(words('go', trace({ speed: () => 1 }))).toMatch(/^not up to it in that time; then stops within 0/);
    expect(words('gusts', trace({ north: () => 3, east: () => 4 }))).toBe('wanders by 5 m, 5 m at most');
  });
});
