import { describe, expect, it } from 'vitest';
import { EMPTY_BOOK, type FlownFlight, fieldBookSchema, MOST_FLIGHTS } from './fieldBook.ts';
import { agedWords, ageOf, signedOff, signOffOf, whyNotSigned, withFlight, withItem } from './signOff.ts';
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

describe('flights that were read', () => {
  const flight = (change: Partial<FlownFlight> = {}): FlownFlight => ({
    ...{
      serial: 'FF7-1',
      flight: 1,
      startedS: 12,
      readAt: '2026-11-27T10:00:00.000Z',
      battery: 'B1',
      propeller: '',
    },
    ...{ seconds: 600, wayM: 9000, farthestM: 2500, highestM: 120, surprises: [], stamp: [] },
    ...change,
  });
  const battery = { kind: 'battery', name: 'B1', since: '2026-11-01' } as const;

  it('stand in the book once, however often they are read', () => {
    const once = withFlight(EMPTY_BOOK, flight());
    const again = withFlight(once, flight({ seconds: 601 }));
    expect(again.flown).toHaveLength(1);
    expect(again.flown[0]!.seconds).toBe(601);
    // A store that was cleaned counts anew: the same number is another flight.
    expect(withFlight(again, flight({ startedS: 400 })).flown).toHaveLength(2);
    expect(withFlight(again, flight({ serial: 'FF7-2' })).flown).toHaveLength(2);
    expect(fieldBookSchema.safeParse(again).success).toBe(true);
  });

  it('let the oldest go where the book is full', () => {
    let book = {
      ...EMPTY_BOOK,
      flown: Array.from({ length: MOST_FLIGHTS }, (_, i) => flight({ flight: i + 1 })),
    };
    book = { ...withFlight(book, flight({ flight: MOST_FLIGHTS + 1 })) } as typeof book;
    expect(book.flown).toHaveLength(MOST_FLIGHTS);
    expect(book.flown[0]!.flight).toBe(2);
    expect(book.flown.at(-1)!.flight).toBe(MOST_FLIGHTS + 1);
  });

  it('belong to the last sign-off of the day that no other flight has', () => {
    const sign = (at: string) => ({
      ...signedOff([], new Date(at), { site: '', battery: 'B1', propeller: '' }),
    });
    const book = { ...EMPTY_BOOK, signOffs: [sign('2026-11-27T08:00:00Z'), sign('2026-11-27T09:00:00Z')] };
    const readAt = new Date('2026-11-27T12:00:00Z');
    const last = signOffOf(book, readAt)!;
    expect(last.at).toBe('2026-11-27T09:00:00.000Z');
    const one = withFlight(book, flight({ signedAt: last.at }));
    expect(signOffOf(one, readAt)!.at).toBe('2026-11-27T08:00:00.000Z');
    const both = withFlight(one, flight({ flight: 2, signedAt: '2026-11-27T08:00:00.000Z' }));
    expect(signOffOf(both, readAt)).toBeNull();
    expect(signOffOf(book, new Date('2026-12-24T12:00:00Z'))).toBeNull();
  });

  it('age what they were flown with: by time, by charge, and by the newest resistance', () => {
    const signed = signedOff([], now, { site: '', battery: 'B1', propeller: '' });
    const book = {
      ...EMPTY_BOOK,
      signOffs: [signed],
      flown: [
        flight({ signedAt: signed.at, drawnMah: 1500, ohm: 0.02 }),
        flight({ flight: 2, drawnMah: 2000, ohm: 0.024 }),
        flight({ flight: 3 }),
        flight({ flight: 4, battery: 'B2', drawnMah: 9000, ohm: 0.9 }),
      ],
    };
    expect(ageOf(battery, book, now)).toEqual({
      days: 26,
      flights: 3,
      seconds: 1800,
      drawnMah: 3500,
      ohm: 0.024,
    });
  });
});
