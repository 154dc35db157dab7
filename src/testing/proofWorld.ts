import { knownDescription } from '#core/board/boardRef.ts';
import { usualScenario } from '#core/formats/scenario.ts';
import type { ProofWorld } from '#core/proofs/proofs.ts';
import { demoCraft, demoValues, torvholm } from './demoCraft.ts';

/** For tests: everything that proofs rest on, for a demo craft on its own board. */
export function proofWorld(
  name: 'turnstone' | 'turnstone-as-found' = 'turnstone',
  change: Partial<ProofWorld> = {},
): ProofWorld {
  const { airframe, bench, board } = demoCraft(name);
  return {
    values: demoValues(name),
    airframe,
    board: { ...board, serial: 'FF7-0419-22' },
    description: knownDescription(board),
    built: bench,
    scenario: usualScenario(torvholm.home),
    site: torvholm,
    ...change,
  };
}
