import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { catalogueOf, runningValues } from '#firmware/releases.ts';
import { type PfadVersion, pfadVersions } from '#firmware/versions.ts';
import { prepared } from '../../../testing/aloft.ts';
import { anySettingsOf } from '../../../testing/anySettings.ts';
import { demoValues } from '../../../testing/demoCraft.ts';
import { turnstone } from '../../airframe/library.ts';
import { sameValue, type Values } from '../catalogue.ts';
import { type MigrationItem, migrate, migrationSteps, pathBetween } from './migrate.ts';
import { slotsOf } from './rules.ts';

const carry = (values: Values, from: PfadVersion, to: PfadVersion, chosen: Record<string, number> = {}) =>
  migrate(values, from, to, pathBetween(from, to)!, catalogueOf(from), catalogueOf(to), chosen);
const itemTo = (items: readonly MigrationItem[], key: string) =>
  items.find((i) => i.to.some((t) => t.key === key));
const pairs = pfadVersions
  .flatMap((a) => pfadVersions.map((b) => [a, b] as const))
  .filter(([a, b]) => a !== b);

describe('the tables', () => {
  it.each(migrationSteps.map((s) => [s.from, s.to, s] as const))(
    '%s to %s name only settings that the two versions have',
    (from, to, step) => {
      const has = (version: string, pattern: string) =>
        catalogueOf(version as PfadVersion).entries.some((e) => slotsOf(pattern, e.key));
      for (const rule of step.rules) {
        if ('old' in rule) expect(has(from, rule.old), rule.old).toBe(true);
        const news = 'new' in rule ? [rule.new].flat() : rule.kind === 'added' ? rule.keys : [];
        for (const key of news) expect(has(to, key), key).toBe(true);
        if (rule.kind === 'dropped' || rule.kind === 'unfold') {
          expect(has(from, rule.entry.key)).toBe(true);
          expect(has(to, rule.entry.key)).toBe(false);
        }
        if (rule.kind === 'redefault') {
          expect(catalogueOf(from as PfadVersion).entry(rule.key)!.default).toBe(rule.was);
          expect(catalogueOf(to as PfadVersion).entry(rule.key)!.default).toBe(rule.now);
        }
        if ('why' in rule) expect(rule.why).toMatch(/\.$/);
      }
    },
  );

  it.each(pfadVersions)('give Pfad %s a catalogue that accepts its own defaults', (version) => {
    const c = catalogueOf(version);
    expect(c.check(c.defaults())).toEqual([]);
    expect(new Set(c.entries.map((e) => e.key)).size).toBe(c.entries.length);
  });

  it('know the way between any two versions and none to others', () => {
    expect(pathBetween('2.8', '3.2-rc1')).toHaveLength(3);
    expect(pathBetween('3.1', '3.0')![0]).toMatchObject({ direction: 'down' });
    expect(pathBetween('3.1', '3.1')).toEqual([]);
    expect(pathBetween('3.1', '4.0')).toBeNull();
  });
});

describe('carrying by meaning', () => {
  const up = (values: Values, chosen: Record<string, number> = {}) =>
    carry({ ...catalogueOf('2.8').defaults(), ...values }, '2.8', '3.1', chosen);

  it('converts by the formulas, reckoned by hand', () => {
    const { values } = up({
      // 1 us per degree a second of 500 us for all is 1/500 per degree a second, times 57.29578 per radian.
      'gain.roll.p': 1,
      'speed.cruise': 72,
      'pack.low': 14.8,
      'pack.cells': 4,
      'lost.wait': 15,
      'throttle.cruise': 62,
      // A time constant of 2 ms has its corner at 1 / (2 pi 0.002) Hz.
      'filter.gyro': 2,
      'level.gain': 4,
    });
    expect(values['rate.roll.p']).toBeCloseTo(0.114592, 6);
    expect(values['nav.speed']).toBeCloseTo(20, 9);
    expect(values['battery.low']).toBeCloseTo(3.7, 9);
    expect(values['lost.notice']).toBeCloseTo(1.5, 9);
    expect(values['motor.cruise']).toBeCloseTo(0.62, 9);
    expect(values['gyro.cutoff']).toBeCloseTo(79.5775, 3);
    expect(values['level.time']).toBeCloseTo(0.25, 9);
  });

  it('shows formula and both values of what it converts', () => {
    const item = itemTo(up({ 'speed.home': 54 }).items, 'return.speed')!;
    expect(item).toMatchObject({
      kind: 'converted',
      from: [{ key: 'speed.home', value: 54 }],
      to: [{ key: 'return.speed', value: 15, unit: 'm/s' }],
      formula: 'km/h / 3.6',
    });
    expect(item.why).toContain('metres a second');
  });

  it('turns one choice into several settings, and several timers out of one rate', () => {
    const { values } = up({ 'stick.order': 'throttle-roll-pitch-yaw', 'servo.rate': '200' });
    expect([values['rx.throttle.channel'], values['rx.roll.channel']]).toEqual([1, 2]);
    for (let t = 1; t <= 5; t++) expect(values[`timer.${t}.rate`]).toBe('200');
  });

  it('says what is dropped, and what is new with its default', () => {
    const { items } = up({});
    expect(items.find((i) => i.from[0]?.key === 'loop.rate')).toMatchObject({ kind: 'dropped', to: [] });
    expect(itemTo(items, 'compass.fitted')).toMatchObject({ kind: 'new', why: 'Came with 3.1.' });
  });

  it('asks where an old default was left as it was, and does as it is told', () => {
    const item = itemTo(up({}).items, 'return.satellites')!;
    expect(item).toMatchObject({ kind: 'decide', to: [{ value: 5 }] });
    expect(item.decision!.options).toEqual(['keep 5', 'take 6']);
    expect(up({}, { 'return.satellites': 1 }).values['return.satellites']).toBe(6);
    // One that somebody chose is no question.
    expect(itemTo(up({ 'return.satellites': 9 }).items, 'return.satellites')!.kind).toBe('kept');
  });

  it('leaves out what is not a setting of the version, and says so', () => {
    const report = carry({ 'no.such': 1, 'speed.home': 54, 'pack.cells': 99 }, '2.8', '3.1');
    const dropped = report.items.filter((i) => i.kind === 'dropped').map((i) => i.from[0]!.key);
    expect(dropped).toEqual(['no.such', 'pack.cells']);
    expect(report.values['return.speed']).toBe(15);
  });

  it('carries a part of the settings as a part', () => {
    const report = carry({ 'return.hurry': 5 }, '3.0', '3.1');
    expect(report.values['return.faster']).toBe(5);
    expect('return.height' in report.values).toBe(false);
  });

  it('cannot convert the voltage of a pack without its cells, and says so', () => {
    const report = carry({ 'pack.low': 14 }, '2.8', '3.1');
    expect(report.items.find((i) => i.from[0]?.key === 'pack.low')).toMatchObject({ kind: 'dropped' });
  });
});

describe('going down', () => {
  it('says what would be lost, and asks where one value has to stand for several', () => {
    const values = {
      ...prepared(turnstone),
      'timer.1.rate': '400',
      'timer.2.rate': '50',
      'return.climb': 'at-least',
    };
    const report = carry(values, '3.1', '2.8');
    const lost = report.items.filter((i) => i.kind === 'dropped').map((i) => i.from[0]!.key);
    expect(lost).toContain('compass.fitted');
    expect(lost).toContain('hover.tilt');
    const rate = itemTo(report.items, 'servo.rate')!;
    expect(rate.kind).toBe('decide');
    expect(rate.from).toHaveLength(5);
    expect(carry(values, '3.1', '2.8', { 'servo.rate': 1 }).values['servo.rate']).not.toBe(
      report.values['servo.rate'],
    );
    expect(itemTo(report.items, 'home.climb')).toMatchObject({ kind: 'decide' });
  });

  it('of a rotorcraft to 2.8 is a question, since 2.8 flies wings only', () => {
    const item = itemTo(carry({ 'craft.kind': 'hex' }, '3.1', '2.8').items, 'craft.kind')!;
    expect(item).toMatchObject({ kind: 'decide' });
    expect(item.why).toContain('wings only');
  });
});

describe('up, then down', () => {
  it.each(pairs.filter(([a, b]) => pfadVersions.indexOf(a) < pfadVersions.indexOf(b)))(
    '%s to %s and back returns every convertible value within its resolution',
    (from, to) => {
      const older = catalogueOf(from);
      fc.assert(
        fc.property(anySettingsOf(older), (change) => {
          const values = { ...older.defaults(), ...change };
          const there = carry(values, from, to);
          const back = carry(there.values, to, from);
          const asked = new Set(
            [...there.items, ...back.items]
              .filter((i) => i.kind === 'decide' || i.kind === 'dropped')
              .flatMap((i) => [...i.from, ...i.to].map((k) => k.key)),
          );
          for (const e of older.entries) {
            if (asked.has(e.key)) continue;
            const [was, is] = [values[e.key]!, back.values[e.key]!];
            if (typeof was === 'number' && typeof is === 'number')
              expect(Math.abs(is - was), e.key).toBeLessThanOrEqual((e.step ?? 1e-6) + 1e-6 * Math.abs(was));
            else expect(is, e.key).toBe(was);
          }
        }),
        { numRuns: 60 },
      );
    },
  );

  it.each(pairs)('%s to %s gives nothing that the board would refuse one by one', (from, to) => {
    const target = catalogueOf(to);
    fc.assert(
      fc.property(anySettingsOf(catalogueOf(from)), (change) => {
        const { values, items } = carry({ ...catalogueOf(from).defaults(), ...change }, from, to);
        for (const [key, value] of Object.entries(values)) expect(target.checkValue(key, value)).toBeNull();
        // Whole settings come to whole settings, each from one place only.
        expect(Object.keys(values).sort()).toEqual(target.entries.map((e) => e.key).sort());
        const reached = items.flatMap((i) => i.to.map((t) => t.key));
        expect(new Set(reached).size).toBe(reached.length);
      }),
      { numRuns: 30 },
    );
  });
});

describe('a board that runs another version', () => {
  it.each(['2.8', '3.0', '3.2-rc1'] as const)('%s flies as 3.1 does with the same meaning', (version) => {
    const meant = demoValues('turnstone');
    const kept = carry(meant, '3.1', version).values;
    const running = runningValues(version, kept);
    for (const key of [
      'rate.roll.p',
      'nav.speed',
      'return.speed',
      'gyro.cutoff',
      'lost.notice',
      'battery.low',
    ]) {
      const share = (running[key] as number) / (meant[key] as number);
      expect(Math.abs(share - 1), key).toBeLessThan(0.01);
    }
    for (const key of [
      'out.3.drives',
      'out.4.reversed',
      'return.height',
      'lost.action',
      'rx.throttle.channel',
    ])
      expect(sameValue(running[key], meant[key]), key).toBe(true);
  });
});
