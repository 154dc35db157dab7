import { availableParallelism } from 'node:os';
import type { BoardModel } from '#core/board/model.ts';
import {
  endOf,
  type FailWorld,
  failScenario,
  failsAt,
  faultName,
  phaseNames,
} from '#core/fails/failTable.ts';
import { phaseIds } from '#core/fails/ids.ts';
import { pairsOf } from '#core/fails/prints.ts';
import { EMPTY_PLAN } from '#core/plan/plan.ts';
import { complain, say } from './output.ts';

const MARKS = { home: 'home', down: 'down', lost: 'LOST' } as const;

/** Flies the table of what may go wrong; exit code 1 where a flight is lost. */
export async function showFails(world: FailWorld, board: BoardModel, json: boolean): Promise<number> {
  const { flyAll } = await import('./batch.ts');
  const pairs = pairsOf(world);
  const { airframe, values, truth, site, fences = [] } = world;
  const plan = { ...EMPTY_PLAN, fences };
  const tell = process.stderr.isTTY;
  const ends = await flyAll(
    site,
    pairs.map(({ fault, phase }) => ({
      airframe,
      board,
      values,
      truth,
      plan,
      scenario: failScenario(world, fault, phase),
      endsEarly: 'circling' as const,
    })),
    availableParallelism(),
    (done, total) => {
      if (tell) complain(`\r${done} of ${total} flown`);
    },
  );
  if (tell) complain('\n');
  const cells = pairs.map((pair, i) => {
    const { verdict, reason, seconds, decisions, settings } = ends[i]!;
    return {
      ...pair,
      name: faultName(pair.fault, airframe),
      end: endOf(verdict),
      verdict,
      reason,
      seconds,
      settings,
      decisions: decisions.filter((d) => d.atS >= failsAt(pair.phase) - 1),
    };
  });
  const count = (end: keyof typeof MARKS) => cells.filter((c) => c.end === end).length;
  const totals = { home: count('home'), down: count('down'), lost: count('lost') };
  if (json) say(`${JSON.stringify({ cells, ...totals })}\n`);
  else {
    const width = Math.max(...cells.map((c) => c.name.length));
    say(`${''.padEnd(width)}  ${phaseIds.map((p) => phaseNames[p].padEnd(24)).join('')}\n`);
    for (const fault of new Set(cells.map((c) => c.fault))) {
      const row = cells.filter((c) => c.fault === fault);
      say(`${row[0]!.name.padEnd(width)}  ${row.map((c) => MARKS[c.end].padEnd(24)).join('')}\n`);
    }
    for (const c of cells.filter((x) => x.end === 'lost'))
      say(`  ${c.name}, ${phaseNames[c.phase]}: ${c.reason}\n`);
    say(`${totals.home} come home, ${totals.down} come down where they are, ${totals.lost} are lost.\n`);
  }
  return totals.lost === 0 ? 0 : 1;
}
