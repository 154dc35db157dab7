import { describe, expect, it } from 'vitest';
import { EMPTY_BOOK, fieldBookSchema } from './fieldBook.ts';
import { agedWords, ageOf, signedOff, whyNotSigned, withItem } from './signOff.ts';
import type { WalkLine } from './walk.ts';

const line = (id: string, state: WalkLine['state'], place: WalkLine['place'] = 'strip'): WalkLine => ({
  ...{
    id,
    place,
    title: id,
    look: '',
    state,
    seen: null,
    at: null,
    why: state === 'blocked' ? 'it hums' : null,
  },
  station: null,
});
const now = new Date('2026-11-27T10:00:00Z');

describe('signing off', () => {
  it('names what is open, and does not count what comes in flight or after it', () => {
    const lines = [
      line('a', 'proven'),
      line('b', 'open'),
      line('c', 'stale'),
      line('d', 'open', 'first'),
      line('e', 'open', 'landed'),
    ];
    expect(whyNotSigned(lines)).toBeNull();
    const signed = signedOff(lines, now, { site: 'Torvholm', battery: 'B1', propeller: '', windMps: 4 });
    expect(signed).toEqual({
      ...{ at: '2026-11-27T10:00:00.000Z', site: 'Torvholm', battery: 'B1', propeller: '', windMps: 4 },
      ...{ proven: 1, of: 3, open: ['b', 'c'] },
    });
    expect(fieldBookSchema.parse({ kit: [], signOffs: [signed] }).signOffs[0]).toEqual(signed);
  });

  it('is refused while anything is not well', () => {
    expect(whyNotSigned([line('servo', 'blocked'), line('x', 'blocked')])).toBe(
      'servo: it hums, and 1 more. What is not well is mended before it flies.',
    );
    expect(whyNotSigned([line('later', 'blocked', 'landed')])).toBeNull();
  });
});

describe('what is carried', () => {
  const battery = { kind: 'battery', name: 'B1', since: '2026-01-01' } as const;
  const flown = (name: string, n: number) =>
    Array.from({ length: n }, () => signedOff([], now, { site: '', battery: name, propeller: '9x6' }));

  it('ages by the calendar and by its flights', () => {
    const book = { kit: [battery], signOffs: [...flown('B1', 3), ...flown('B2', 5)], flown: [] };
    const unread = { seconds: 0, drawnMah: 0, ohm: null };
    expect(ageOf(battery, book, now)).toEqual({ days: 330, flights: 3, ...unread });
    expect(ageOf({ kind: 'propeller', name: '9x6', since: '2026-11-27' }, book, now)).toEqual({
      days: 0,
      flights: 8,
      ...unread,
    });
    expect(agedWords(battery, { days: 330, flights: 3, ...unread })).toBeNull();
    expect(agedWords(battery, { days: 330, flights: 150, ...unread })).toContain('grown old');
    expect(agedWords({ ...battery, kind: 'propeller' }, { days: 1, flights: 60, ...unread })).toContain(
      'run-up',
    );
  });

  it('has names that are told apart', () => {
    const one = withItem(EMPTY_BOOK, battery);
    expect(one).toMatchObject({ kit: [battery] });
    if (typeof one === 'string') throw new Error(one);
    expect(withItem(one, battery)).toBe('There is a battery called B1 already.');
    expect(withItem(one, { ...battery, kind: 'propeller' })).toMatchObject({ kit: [{}, {}] });
    expect(fieldBookSchema.safeParse({ kit: [{ ...battery, since: 'May' }] }).success).toBe(false);
  });
});
