import { printOf } from '../proofs/proofs.ts';
import { sitePrint } from '../site/siteFile.ts';
import { type FailCell, pairOf } from './failCell.ts';
import { canFail, type FailWorld, restsOf } from './failTable.ts';
import { type FaultId, faultIds, type PhaseId, phaseIds } from './ids.ts';

/** A pair that can be flown with a craft. */
export interface Pair {
  readonly fault: FaultId;
  readonly phase: PhaseId;
}

export const pairsOf = (world: FailWorld): Pair[] =>
  faultIds
    .filter((fault) => canFail(fault, world))
    .flatMap((fault) => phaseIds.map((phase) => ({ fault, phase })));

/** Print of all that a pair's flight rests on. @param target the board's make */
export const pairPrint = (world: FailWorld, target: string, { fault, phase }: Pair): string =>
  printOf([restsOf(world, fault, phase), target, sitePrint(world.site), ...(world.fences ?? [])]);

/** Whether a flight is of the draft as it is now. */
export const isFresh = (cell: FailCell | undefined, world: FailWorld, target: string): boolean =>
  cell !== undefined && cell.print === pairPrint(world, target, cell);

/** Pairs whose flight is not known for the draft as it is now. */
export function pairsToFly(
  world: FailWorld,
  target: string,
  cells: Readonly<Record<string, FailCell>>,
): Pair[] {
  return pairsOf(world).filter((p) => !isFresh(cells[pairOf(p)], world, target));
}
