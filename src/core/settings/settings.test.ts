import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { anyChanges } from '../../testing/anySettings.ts';
import { demoValues } from '../../testing/demoCraft.ts';
import { Catalogue, sameValue } from './catalogue.ts';
import { heldValueSchema, settingEntrySchema } from './catalogueSchema.ts';
import { changesOf, drop, rebase, stage } from './draft.ts';
import { settingsFromToml, settingsToToml } from './text.ts';

const base = pfadCatalogue.defaults();

describe('an entry that is not understood in all of it', () => {
  it('is read as the least that can be said, and only its key must be right', () => {
    const odd = { key: 'a.b', type: 'curve', unit: 7, min: 'low', step: 0, choices: 'none', effect: 'soon' };
    expect(settingEntrySchema.parse(odd)).toEqual({
      key: 'a.b',
      group: 'Others',
      label: '',
      meaning: 'The board says nothing more of it.',
      type: 'other',
      unit: 'none',
      default: '',
      effect: 'restart',
    });
    expect(settingEntrySchema.safeParse({ ...odd, key: 4 }).success).toBe(false);
    expect(heldValueSchema.parse([0, 1.5])).toBe('[0,1.5]');
    expect(heldValueSchema.parse('x'.repeat(90))).toHaveLength(64);
    expect(heldValueSchema.parse(undefined)).toBe('nothing');
  });

  it('is the board’s own business: shown, written as a comment, never refused unless somebody sets it', () => {
    const odd = settingEntrySchema.parse({ key: 'a.b', label: 'Curve', type: 'curve' });
    const whole = new Catalogue([...pfadCatalogue.entries, odd], pfadCatalogue.rules);
    const values = { ...base, 'a.b': '[1]' };
    expect(whole.check(values)).toEqual([]);
    expect(whole.checkValue('a.b', '[2]')).toMatchObject({ code: 'wrong-type' });
    const text = settingsToToml(whole, values, 'one');
    expect(text).toContain('# a.b = "[1]"');
    expect(settingsFromToml(whole, text)).toEqual({ ok: true, values: base });
  });
});

describe('the catalogue of Pfad 3.1', () => {
  it('has about 120 settings or more, each with a meaning, a unit and a default that it accepts itself', () => {
    expect(pfadCatalogue.entries.length).toBeGreaterThanOrEqual(120);
    for (const e of pfadCatalogue.entries) {
      expect(e.meaning.length).toBeGreaterThan(10);
      expect(pfadCatalogue.checkValue(e.key, e.default)).toBeNull();
    }
    expect(new Set(pfadCatalogue.entries.map((e) => e.key)).size).toBe(pfadCatalogue.entries.length);
    expect(pfadCatalogue.check(base)).toEqual([]);
  });

  it('says in a sentence why a value is refused', () => {
    const why = (key: string, value: unknown) => pfadCatalogue.checkValue(key, value)?.why;
    expect(why('return.height', 5)).toBe('Return height cannot be 5; it goes from 15 to 1000 m.');
    expect(why('return.height', 'high')).toBe('Return height needs a number.');
    expect(why('return.height', Number.NaN)).toBe('Return height needs a number.');
    expect(why('rx.roll.low', 1000.5)).toBe('Roll low end needs a whole number.');
    expect(why('lost.action', 'panic')).toContain('cannot be "panic"');
    expect(why('arm.needFix', 1)).toContain('yes or no');
    expect(why('overlay.words.1', 7)).toContain('is words.');
    expect(why('overlay.words.1', 'Böe')).toContain('signs that any keyboard has');
    expect(why('overlay.words.1', 'x'.repeat(65))).toContain('takes up to');
    expect(why('overlay.words.1', '')).toBeUndefined();
    expect(why('no.such', 1)).toBe('This board has no setting named no.such.');
  });
});

describe('the draft', () => {
  it('stays the same one where nothing changes', () => {
    const d = stage({}, base, { 'return.height': 90 });
    expect(stage(d, base, { 'return.height': 90 })).toBe(d);
    expect(drop(d, ['loiter.radius'])).toBe(d);
    expect(rebase(d, base)).toBe(d);
  });

  it('forgets an edit that puts back what the board holds', () => {
    const d = stage(stage({}, base, { 'return.height': 90 }), base, {
      'return.height': base['return.height']!,
    });
    expect(d).toEqual({});
  });

  it('lists changes in the catalogue’s order and drops them', () => {
    const d = stage({}, base, { 'return.height': 90, 'out.1.low': 1010 });
    expect(changesOf(pfadCatalogue, base, d).map((c) => c.key)).toEqual(['out.1.low', 'return.height']);
    expect(Object.keys(drop(d, ['out.1.low']))).toEqual(['return.height']);
  });

  it('has nothing left to write once the board holds it', () => {
    const d = stage({}, base, { 'return.height': 90 });
    expect(rebase(d, { ...base, 'return.height': 90 })).toEqual({});
  });
});

describe('settings as TOML', () => {
  it('come back as they went out', () => {
    const values = demoValues('turnstone');
    const parsed = settingsFromToml(pfadCatalogue, settingsToToml(pfadCatalogue, values, 'Turnstone\n1600'));
    expect(parsed).toEqual({ ok: true, values });
  });

  it('come back as they went out, whatever they are', () => {
    fc.assert(
      fc.property(anyChanges(), (change) => {
        const values = { ...base, ...change };
        const parsed = settingsFromToml(pfadCatalogue, settingsToToml(pfadCatalogue, values, 'any'));
        if (!parsed.ok) throw new Error(parsed.faults[0]!.why);
        for (const key of Object.keys(values)) expect(sameValue(parsed.values[key], values[key])).toBe(true);
      }),
      { numRuns: 60 },
    );
  });

  it('may be written in tables as well', () => {
    const parsed = settingsFromToml(pfadCatalogue, '[return]\nheight = 200\nspeed = 17.5\n');
    expect(parsed).toEqual({ ok: true, values: { 'return.height': 200, 'return.speed': 17.5 } });
  });

  it('may write a choice among numbers as a number', () => {
    const parsed = settingsFromToml(pfadCatalogue, 'gnss.baud = 9600\n');
    expect(parsed).toEqual({ ok: true, values: { 'gnss.baud': '9600' } });
    expect(settingsFromToml(pfadCatalogue, 'gnss.baud = 9601\n').ok).toBe(false);
  });

  it('name the line of an unknown key, a wrong type and a value out of range, and take nothing', () => {
    const text = 'return.height = 100\nreturn.hight = 100\nlost.action = 3\n\n[nav]\nspeed = 900\n';
    const parsed = settingsFromToml(pfadCatalogue, text);
    expect(parsed.ok).toBe(false);
    if (parsed.ok) return;
    expect(parsed.faults.map((f) => f.line)).toEqual([2, 3, 6]);
    expect(parsed.faults[0]!.why).toBe('This board has no setting named return.hight.');
    expect(parsed.faults[2]!.why).toContain('goes from 5 to 60 m/s');
  });

  it('name the line that is no TOML', () => {
    const parsed = settingsFromToml(pfadCatalogue, 'return.height = 100\nreturn.speed == 3\n');
    expect(parsed.ok ? 0 : parsed.faults[0]!.line).toBe(2);
  });

  it('never throw, whatever is pasted', () => {
    fc.assert(
      fc.property(
        fc.string({ maxLength: 200 }),
        (text) => typeof settingsFromToml(pfadCatalogue, text).ok === 'boolean',
      ),
    );
    expect(settingsFromToml(pfadCatalogue, '__proto__.a = 1').ok).toBe(false);
    expect(({} as { a?: number }).a).toBeUndefined();
  });
});
