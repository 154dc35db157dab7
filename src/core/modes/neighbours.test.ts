import { describe, expect, it } from 'vitest';
import { demoValues } from '../../testing/demoCraft.ts';
import { dangersOf, placesFor, touchedAt } from './neighbours.ts';

const values = {
  ...demoValues('turnstone'),
  'arm.channel': 5,
  'arm.from': 1700,
  'arm.to': 2200,
  'mode.return.channel': 7,
};
const arm = { channel: 5, positions: [1000, 2000] };
const home = { channel: 7, positions: [1000, 2000] };
const kinds = (switches: Parameters<typeof dangersOf>[1]['switches']) =>
  dangersOf(values, { switches }).map((d) => d.kind);

describe('where switches lie', () => {
  it('is a danger where the one that stops the motors lies beside one for a mode, on either side, and only there', () => {
    expect(
      kinds([
        { ...arm, place: 0 },
        { ...home, place: 2 },
      ]),
    ).toEqual(['beside']);
    expect(
      kinds([
        { ...arm, place: 3 },
        { ...home, place: 7 },
      ]),
    ).toEqual(['beside']);
    expect(
      kinds([
        { ...arm, place: 0 },
        { ...home, place: 1 },
      ]),
    ).toEqual([]);
    expect(
      kinds([
        { ...arm, place: 4 },
        { ...home, place: 6 },
      ]),
    ).toEqual([]);
    expect(kinds([arm, home])).toEqual([]);
  });

  it('names a switch that springs back and has to hold something', () => {
    const [danger] = dangersOf(values, { switches: [{ ...arm, springs: true }] });
    expect(danger).toMatchObject({ kind: 'springs', channel: 5 });
    expect(danger!.sentence).toContain('motors stop');
    expect(kinds([{ channel: 11, positions: [1000, 2000], springs: true }])).toEqual([]);
  });

  it('names a motor stop that is touched in flight, and lists what is touched when', () => {
    const switches = [
      { ...arm, touched: 'flight' as const },
      { ...home, touched: 'flight' as const },
    ];
    expect(kinds(switches)).toEqual(['stops-in-flight']);
    expect(touchedAt({ switches }, 'flight')).toEqual([5, 7]);
    expect(touchedAt({ switches }, 'launch')).toEqual([]);
  });

  it('draws each where it was said to be, and the others where room is left', () => {
    expect(placesFor([{}, { place: 0 }, {}])).toEqual([1, 0, 2]);
    expect(placesFor(Array.from({ length: 10 }, () => ({})))).toEqual([0, 1, 2, 3, 4, 5, 6, 7, -1, -1]);
  });
});
