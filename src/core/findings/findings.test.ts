import { readdirSync, readFileSync } from 'node:fs';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { prepared } from '../../testing/aloft.ts';
import { anyChanges } from '../../testing/anySettings.ts';
import { demoValues, torvholm } from '../../testing/demoCraft.ts';
import { examples, findingsPage } from '../../testing/findingExamples.ts';
import { type Airframe, isRotorcraft } from '../airframe/airframe.ts';
import { avocet, flock, knot, plainCraft, ruff, turnstone } from '../airframe/library.ts';
import { knownDescription } from '../board/boardRef.ts';
import { fellF7 } from '../board/fellF7.ts';
import type { Wishes } from '../board/wishes.ts';
import { switchedModes } from '../modes/modes.ts';
import { routeProblemIds } from '../plan/routeProblems.ts';
import { Catalogue, type Values } from '../settings/catalogue.ts';
import { groundOf } from '../site/site.ts';
import type { UnitSystem } from '../units/units.ts';
import { checkAll, findAll } from './findings.ts';
import { codeOf } from './rule.ts';
import { overlayFindingIds } from './rules/overlay.ts';

const good = demoValues('turnstone');
const ground = groundOf(torvholm)!;
const find = (change: Values, airframe = turnstone) =>
  findAll({
    airframe,
    values: { ...good, ...change },
    catalogue: pfadCatalogue,
    description: fellF7,
    ground,
  });

describe('findings', () => {
  it('are none for the craft put right', () => {
    expect(find({})).toEqual([]);
  });

  it.each(examples)('$id: $what', ({ id, input, fixable }) => {
    const found = findAll(input).find((f) => f.id === id)!;
    expect(found, 'it is not raised').toBeDefined();
    expect(found.title.length).toBeGreaterThan(10);
    expect(found.why).toMatch(/[.?)]$/);
    expect(found.fix !== undefined, 'its fix').toBe(fixable);
    if (!found.fix) return;
    // Taken, it is gone, and the board takes it.
    const { edits } = found.fix;
    const after = findAll({ ...input, values: { ...input.values, ...edits } });
    expect(after.map((f) => f.id)).not.toContain(id);
    for (const [key, value] of Object.entries(edits)) expect(pfadCatalogue.checkValue(key, value)).toBeNull();
  });

  it('leave out what a board has no settings for, and tell it; no number is made up', () => {
    const few = new Set(pfadCatalogue.entries.filter((_, i) => i % 7 === 0).map((e) => e.key));
    const catalogue = new Catalogue(
      pfadCatalogue.entries.filter((e) => few.has(e.key)),
      [],
    );
    for (const airframe of [turnstone, knot, avocet]) {
      const values = Object.fromEntries(Object.entries(prepared(airframe)).filter(([k]) => few.has(k)));
      const { found, lacking } = checkAll({
        airframe,
        values,
        catalogue,
        description: fellF7,
        ground,
        site: torvholm,
      });
      expect(lacking.length).toBeGreaterThan(3);
      for (const key of lacking) expect(few.has(key)).toBe(false);
      for (const f of found) expect(`${f.title} ${f.why} ${f.fix?.label}`).not.toMatch(/NaN|undefined(?!$)/);
    }
  });

  it('have each an example, and a place on the page that is made of them', () => {
    const sources = ['findings.ts', ...readdirSync('src/core/findings/rules').map((f) => `rules/${f}`)];
    const codes = sources.flatMap((f) =>
      [...readFileSync(`src/core/findings/${f}`, 'utf8').matchAll(/finding\(\s*[`']([a-z-]+)/g)].map(
        (m) => m[1]!,
      ),
    );
    expect(codes.length).toBeGreaterThan(30);
    expect([...new Set(examples.map((e) => codeOf(e.id)))].sort()).toEqual(
      [...new Set([...codes, ...routeProblemIds, ...overlayFindingIds])].sort(),
    );
    expect(readFileSync('docs/findings.md', 'utf8')).toBe(findingsPage());
  });

  it('speak in the units that the person reads', () => {
    const of = (units: UnitSystem, change: Values) =>
      findAll({
        airframe: turnstone,
        values: { ...good, ...change },
        catalogue: pfadCatalogue,
        description: fellF7,
        ground,
        units,
      }).map((f) => `${f.title} ${f.why} ${f.fix?.label}`);
    const low = of('imperial', { 'return.height': 200 })[0];
    expect(low).toContain('571 ft below the highest ground in reach');
    expect(low).toContain('the ground rises to 1352 ft above the sea');
    expect(low).toContain('Return at 1329 ft above home');
    const slow = of('aviation', { 'return.speed': 11.2, 'nav.speedFloor': 10 }).join(' ');
    expect(slow).toMatch(/The return speed of 21\.8 kt/);
    expect(slow).not.toMatch(/ m\/s/);
  });

  it('know where it flies: a compass set for another place, with the field of this one', () => {
    const at = (site: typeof torvholm, change: Values) =>
      findAll({
        airframe: avocet,
        values: prepared(avocet, change),
        catalogue: pfadCatalogue,
        description: fellF7,
        ground,
        site,
      }).filter((f) => f.id === 'compass-elsewhere');
    expect(at(torvholm, {})).toEqual([]);
    const [found] = at(torvholm, { 'compass.declination': 3.5 });
    expect(found).toMatchObject({ severity: 'caution', station: 'site' });
    expect(found!.why).toContain('lies -5.7° off true north at 51.7 µT');
    expect(at(torvholm, { 'compass.declination': 3.5, ...found!.fix!.edits })).toEqual([]);
    // In the south of the Atlantic anomaly half the field is left.
    const south = { ...torvholm, home: { lat: -25, lon: -50, heightM: 500 } };
    expect(at(south, {})).toHaveLength(1);
  });

  it('put those that block flight first', () => {
    const found = find({ 'battery.cells': 3, 'lost.action': 'nothing' });
    expect(found.map((f) => f.severity)).toEqual(['blocks', 'caution']);
  });

  it('find the honest mistakes of the craft as found', () => {
    const found = findAll({
      airframe: turnstone,
      values: demoValues('turnstone-as-found'),
      catalogue: pfadCatalogue,
      ground,
    });
    expect(found.map((f) => f.id)).toEqual([
      'lost-cut',
      'return-below-ridge',
      'gnss-budget',
      'overlay-flickers.a',
      'overlay-outside.a',
    ]);
  });
});

describe('every switch', () => {
  const ids = ['arm', 'flap', 'set', ...switchedModes.map((m) => `mode.${m}`)];
  it.each(ids)('%s on a stick blocks', (id) => {
    for (const stick of ['roll', 'pitch', 'throttle', 'yaw']) {
      const channel = good[`rx.${stick}.channel`]!;
      const found = find({ [`${id}.channel`]: channel }).find((f) => f.id === `switch-on-stick.${id}`);
      expect(found?.severity).toBe('blocks');
      expect(found?.title).toContain(`is on the ${stick} stick`);
      expect(found?.keys).toEqual([`${id}.channel`, `rx.${stick}.channel`]);
    }
  });
});

describe('findings for craft with rotors', () => {
  const withRotors = (change: Values, airframe: Airframe = avocet) =>
    findAll({
      airframe,
      values: prepared(airframe, change),
      catalogue: pfadCatalogue,
      description: fellF7,
      ground,
    });

  it.each(
    [avocet, ruff, plainCraft('quad-plus'), plainCraft('hex'), plainCraft('y6')].map(
      (a) => [a.name, a] as const,
    ),
  )('are none for %s on its starting values', (_name, airframe) => {
    expect(withRotors({}, airframe).filter((f) => f.severity === 'blocks')).toEqual([]);
  });

  it('say nothing of stalls and circles, which rotors do not know', () => {
    const found = withRotors({ 'loiter.radius': 10, 'level.bank': 60, 'nav.speedFloor': 5 }).map((f) => f.id);
    for (const id of ['loiter-tight', 'bank-stall', 'floor-low', 'return-slow', 'cg-aft'])
      expect(found).not.toContain(id);
  });
});

describe('findings for any wing on its starting values', () => {
  it.each(flock.filter((a) => !isRotorcraft(a)).map((a) => [a.name, a] as const))(
    'do not block: %s',
    (_name, airframe) => {
      const found = findAll({
        airframe,
        values: prepared(airframe),
        catalogue: pfadCatalogue,
        description: fellF7,
        ground,
      });
      expect(found.filter((f) => f.severity === 'blocks')).toEqual([]);
    },
  );
});

describe('findings on the board that the craft is for', () => {
  const on = (target: string, change: Values) =>
    findAll({
      airframe: turnstone,
      values: { ...good, ...change },
      catalogue: pfadCatalogue,
      description: knownDescription({ target }) ?? undefined,
      ground,
    });
  const tenth = { 'out.4.drives': 'nothing', 'out.10.drives': 'elevator' };

  it('tell an output that it does not have, with a way out that ends it', () => {
    const found = on('fell-f7', tenth).find((f) => f.id === 'output-not-there.10')!;
    expect(found.severity).toBe('blocks');
    expect(found.title).toBe('Output 10 drives the elevator, and Fell F7 has no output 10');
    expect(found.fix!.edits).toEqual({ 'out.10.drives': 'nothing', 'out.4.drives': 'elevator' });
    expect(on('fell-f7', { ...tenth, ...found.fix!.edits })).toEqual([]);
  });

  it('are none where the board has it, nor where nobody knows the board', () => {
    for (const target of ['massif-h7-b', 'granite-x1'])
      expect(on(target, tenth).filter((f) => f.id.startsWith('output-'))).toEqual([]);
  });
});

describe('findings on the wiring', () => {
  const wired = (target: string, wishes: Partial<Wishes>, airframe = turnstone) =>
    findAll({
      airframe,
      values: good,
      catalogue: pfadCatalogue,
      description: knownDescription({ target })!,
      ground,
      wiring: { wishes: { outputs: [], serial: [], buses: [], ...wishes } },
    });

  it('block what cannot all be connected', () => {
    const servo = { name: 's', kind: 'servo-pwm' as const };
    expect(wired('fell-f7', { outputs: Array(9).fill(servo) })[0]?.id).not.toBe('wiring-collides');
    const found = wired('fell-f7', { outputs: Array(10).fill(servo) });
    expect(found[0]).toMatchObject({ id: 'wiring-collides', severity: 'blocks' });
  });

  it('count a bus as it is laid out, and caution before it is full', () => {
    const flow = { device: 'flow' as const, kind: 'i2c' as const };
    const many = Array.from({ length: 16 }, (_, i) => ({ ...flow, address: 16 + i }));
    // Each takes 100 readings of 26 bytes of nine bits, of 400,000: 5.9 %. Sixteen on one bus are 94 % and the barometer's.
    const full = wired('cobble-f4-wing', { buses: many }).find((f) => f.id === 'bus-budget.I2C 1');
    expect(full).toMatchObject({ severity: 'caution', why: expect.stringContaining('95 %') });
    expect(wired('cobble-f4-wing', { buses: many.slice(0, 4) }).map((f) => f.id)).not.toContain(
      'bus-budget.I2C 1',
    );
  });

  it('block a pack above what the board takes, and are silent about a board they do not know', () => {
    const six = { ...turnstone, battery: { ...turnstone.battery, cells: 6 } };
    expect(wired('cobble-f4-wing', {}, six).map((f) => f.id)).toContain('power.1');
    expect(wired('pebble', {}).filter((f) => f.station === 'wiring')).toEqual([]);
  });
});

describe('findings on ports, timers and what their wires carry', () => {
  it('give the numbers', () => {
    const { why } = find({ 'gnss.baud': '9600', 'gnss.rate': '5' }).find((f) => f.id === 'gnss-budget')!;
    expect(why).toMatch(/5 solutions a second .* are 1630 bytes a second; at 9600 baud 960 come through/);
  });

  it('say when a port lies on the pins of a driven output', () => {
    const found = find({ 'port.6.use': 'camera', 'out.9.drives': 'left-flap' }).find((f) =>
      f.id.startsWith('shared-pins'),
    );
    expect(found?.why).toMatch(/one of the two would be dead/);
    expect(find({ 'port.6.use': 'camera' }).map((f) => f.id)).not.toContain('shared-pins.6');
  });

  it('are none for motors that are sent frames, however slow the pulses would be', () => {
    const ids = find({ 'timer.1.sends': 'dshot600' }).map((f) => f.id);
    expect(ids.filter((id) => /frames|slow-rotors/.test(id))).toEqual([]);
  });
});

describe('findings on settings drawn by chance', () => {
  it('never throw, have a sentence each, and name and offer only what the board knows', () => {
    fc.assert(
      fc.property(anyChanges(), fc.constantFrom(turnstone, knot, avocet, ruff), (change, airframe) => {
        for (const f of find(change, airframe)) {
          expect(f.why).toMatch(/[.?)]$/);
          for (const key of f.keys) expect(pfadCatalogue.entry(key)).toBeDefined();
          for (const [key, value] of Object.entries(f.fix?.edits ?? {}))
            expect(pfadCatalogue.checkValue(key, value)).toBeNull();
        }
      }),
    );
  });
});
