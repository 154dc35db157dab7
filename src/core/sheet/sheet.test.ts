import { describe, expect, it } from 'vitest';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { demoCraft } from '../../testing/demoCraft.ts';
import { startingValues } from '../settings/startingValues.ts';
import { type SheetInput, sheetBody, sheetHtml } from './sheet.ts';

const craft = demoCraft('turnstone');
const input: SheetInput = {
  name: craft.name,
  airframe: craft.airframe,
  board: craft.board,
  values: { ...pfadCatalogue.defaults(), ...craft.settings },
  catalogue: pfadCatalogue,
  starting: startingValues(craft.airframe),
  lines: [
    {
      ...{ id: 'balance', place: 'bench', title: 'Balance', look: 'It hangs level.', state: 'proven' },
      ...{ seen: 'looked at, and well', at: '2026-11-25T10:00:00.000Z', why: null, station: null },
    },
  ],
  findings: [],
  site: 'Torvholm',
  setup: '',
  notes: 'Two lines\nof notes',
  units: 'metric',
  now: new Date('2026-11-27T12:00:00Z'),
};

describe('the sheet of a whole set-up', () => {
  it('tells every setting that is unlike the delivered one, once, in one of its parts', () => {
    const body = sheetBody(input);
    for (const entry of pfadCatalogue.entries) {
      const value = input.values[entry.key];
      if (value === entry.default || /^(out\.|port\.|overlay\.[abc]\.|arm\.|mode\.)/.test(entry.key))
        continue;
      expect(body, entry.key).toContain(entry.label.replace(/&/g, '&amp;').replace(/'/g, '&apos;'));
    }
    // Computed ones with their reason.
    const reasons = input.starting.filter((s) => body.includes(s.why.replace(/'/g, '&apos;')));
    expect(reasons.length).toBeGreaterThan(10);
    for (const text of [
      'left motor',
      'Return home',
      'Layout A, Ouzel, digital',
      'H1305m',
      'looked at, and well; 2026-11-25',
      'of notes',
    ])
      expect(body).toContain(text);
  });

  it('is a page of its own that asks for nothing from elsewhere', () => {
    const html = sheetHtml(input);
    expect(html).toMatch(/^<!doctype html>/);
    expect(html).not.toMatch(/<script|src=|href=|url\(/);
    const open = [...html.matchAll(/<(section|table|tr|td|h2|main|body|pre)\b/g)].length;
    const closed = [...html.matchAll(/<\/(section|table|tr|td|h2|main|body|pre)>/g)].length;
    expect(open).toBe(closed);
  });

  it('lets nothing out of a name or a note that a browser would run', () => {
    const bad = '<img src=x onerror=alert(1)>"\'&';
    const html = sheetHtml({
      ...input,
      name: bad,
      notes: bad,
      site: bad,
      setup: bad,
      findings: [{ id: 'x', severity: 'blocks', station: 'board', title: bad, why: bad, keys: [] }],
    });
    expect(html).not.toContain('<img');
    expect(html).toContain('&lt;img src=x onerror=alert(1)&gt;');
  });
});
