import { describe, expect, it } from 'vitest';
import { readFlightLog } from '#core/formats/flightLog.ts';
import { usualScenario } from '#core/formats/scenario.ts';
import { demoCraft, demoValues, torvholm } from '../testing/demoCraft.ts';
import { BenchBoard, shelfFor } from './benchBoard.ts';
import { dayOf, flyBoard } from './dayOut.ts';

const thought = {
  ...usualScenario(torvholm.home),
  events: [{ atS: 30, do: 'link-lost' as const }],
  limitS: 400,
};
const near = { ...thought, outbound: { ...thought.outbound, distanceM: 500 } };

describe('a day out', () => {
  it('is another one for each flight, near the one thought of, and the same whenever it is flown', () => {
    const days = [1, 2, 3].map((n) => dayOf(thought, n));
    expect(new Set(days.map((d) => d.wind.speedMps)).size).toBe(3);
    for (const d of days) {
      expect(Math.abs(d.wind.speedMps / thought.wind.speedMps - 1)).toBeLessThanOrEqual(0.25);
      expect(d.wind.fromDeg).toBeGreaterThanOrEqual(0);
      expect(d.wind.fromDeg).toBeLessThan(360);
    }
    expect(dayOf(thought, 2)).toEqual(days[1]);
  });

  it('flies what is on the board, which has the flight afterwards, and keeps it when it is laid away', () => {
    const craft = demoCraft('turnstone');
    const from = shelfFor(craft.board.target)[0]!;
    const board = BenchBoard.fresh(from, { ...demoValues('turnstone'), 'return.height': 90 });
    const flown = flyBoard(board, craft.airframe, craft.bench!, near, torvholm);
    expect(flown).toMatchObject({ verdict: 'home' });
    const [flight] = board.log.list();
    expect(flight).toMatchObject({ flight: 1, whole: true });
    const log = readFlightLog(board.log.read(1, 0, flight!.bytes)!)!;
    expect(log.settings['return.height']).toBe(90);
    expect(log.decisions.map((d) => d.text).join(' ')).toContain('Way home');
    const again = BenchBoard.kept(from, board.keep());
    expect(again.log.list()).toEqual(board.log.list());
    expect(Buffer.compare(again.log.read(1, 0, 1e7)!, board.log.read(1, 0, 1e7)!)).toBe(0);
  }, 60_000);

  it('is none without a firmware', () => {
    const craft = demoCraft('turnstone');
    const empty = shelfFor(craft.board.target).find((b) => b.firmware === null)!;
    expect(flyBoard(BenchBoard.fresh(empty, {}), craft.airframe, craft.bench!, near, torvholm)).toContain(
      'no firmware',
    );
  });
});
