import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft, demoValues } from '../../testing/demoCraft.ts';
import { readCraftFile, writeCraftFile } from '../formats/craftFile.ts';
import { setUpsBeside } from './beside.ts';
import { taughtHere, toTeach, twinOf } from './twin.ts';

const file = demoCraft('turnstone');
const values = {
  ...demoValues('turnstone'),
  'accel.1.offset.x': 0.2,
  'mount.levelPitch': 1.5,
  'rate.roll.p': 0.123,
};

describe('a twin', () => {
  it('has all of the set-up but what was taught, proven, flown or lost', () => {
    const signed = {
      ...file,
      field: {
        kit: [{ kind: 'battery' as const, name: 'B1', since: '2026-01-01' }],
        signOffs: [],
        flown: [],
      },
    };
    const twin = twinOf(signed, values, pfadCatalogue, 'Turnstone, twin');
    expect(twin).toMatchObject({
      name: 'Turnstone, twin',
      proofs: [],
      edits: {},
      board: { target: 'fell-f7', serial: '' },
    });
    expect(twin.field).toEqual({ kit: [], signOffs: [], flown: [] });
    expect(twin.bench).toBeUndefined();
    expect(twin.settings['rate.roll.p']).toBe(0.123);
    expect(twin.settings['accel.1.offset.x']).toBe(0);
    expect(twin.settings['mount.levelPitch']).toBe(0);
    for (const [key, value] of Object.entries(twin.settings))
      if (!toTeach.some((t) => t.anew && t.keys.test(key)))
        expect(value, key).toBe(values[key as keyof typeof values]);
    // It is a craft's file like any other.
    expect(readCraftFile(writeCraftFile(twin)).ok).toBe(true);
  });

  it('names what is to be taught again, of what there is', () => {
    const names = taughtHere(values, pfadCatalogue).map((t) => t.name);
    expect(names).toEqual(expect.arrayContaining(['Accelerometer', 'Level']));
    expect(taughtHere(pfadCatalogue.defaults(), pfadCatalogue)).toEqual([]);
    // No setting belongs to two of them, and each names some.
    for (const t of toTeach)
      expect(
        pfadCatalogue.entries.some((e) => t.keys.test(e.key)),
        t.name,
      ).toBe(true);
    for (const e of pfadCatalogue.entries)
      expect(toTeach.filter((t) => t.keys.test(e.key)).length, e.key).toBeLessThan(2);
  });
});

describe('two set-ups beside each other', () => {
  const side = (change: object = {}, of: Partial<typeof file> = {}) => ({
    values: { ...values, ...change },
    file: { ...file, ...of },
  });

  it('tell only what is other, by the parts of the sheet', () => {
    expect(setUpsBeside(side(), side(), pfadCatalogue, 'metric')).toEqual([]);
    const [wing, ...more] = file.airframe.planforms;
    const parts = setUpsBeside(
      side(),
      side(
        { 'return.height': 222 },
        {
          airframe: { ...file.airframe, massKg: 2.5, planforms: [{ ...wing!, spanM: 1.7 }, ...more] },
          site: 'Skerrow',
        },
      ),
      pfadCatalogue,
      'metric',
    );
    const rows = parts.flatMap((p) => p.rows.map((r) => `${p.title}: ${r.what}, ${r.there}`));
    expect(rows).toHaveLength(4);
    expect(rows.join('; ')).toMatch(/The craft: mass, 2\.5 kg/);
    expect(rows.join('; ')).toMatch(/span, 1\.7 m/);
    expect(rows.join('; ')).toContain('Board, site and route: site, Skerrow');
    expect(rows.join('; ')).toContain('222 m');
  });

  it('are told in the units that are read, and two places of one thing never by one name', () => {
    const heavier = side({ 'return.height': 222 }, { airframe: { ...file.airframe, massKg: 2.5 } });
    const rows = setUpsBeside(side(), heavier, pfadCatalogue, 'imperial').flatMap((p) => p.rows);
    // 2.5 kg and 222 m, by the definitions of pound and foot.
    expect(rows.map((r) => r.there)).toEqual(['5.51 lb', '728 ft']);
    // What is per volt is no voltage.
    const motors = file.airframe.motors.map((m) => ({ ...m, kvRpmPerV: 777 }));
    const faster = side({}, { airframe: { ...file.airframe, motors } });
    const [speed] = setUpsBeside(side(), faster, pfadCatalogue, 'imperial').flatMap((p) => p.rows);
    expect(speed).toMatchObject({ there: '777 rpm/V' });
    // Every number of a craft made other is a row of its own.
    let changed = 0;
    const other = JSON.parse(JSON.stringify(file.airframe), (_, v: unknown) => {
      if (typeof v !== 'number') return v;
      changed++;
      return v + 1000 + changed;
    }) as typeof file.airframe;
    const all = setUpsBeside(side(), side({}, { airframe: other }), pfadCatalogue, 'metric');
    expect(all.flatMap((p) => p.rows)).toHaveLength(changed);
  });

  it('are settings alone where only those were kept, and a value that one has not is a dash', () => {
    const kept: Record<string, string | number | boolean> = { ...values };
    delete kept['return.height'];
    const parts = setUpsBeside(side(), { values: kept, file: null }, pfadCatalogue, 'metric');
    expect(parts).toHaveLength(1);
    expect(parts[0]!.rows[0]!.there).toBe('–');
  });
});
