import { knownDescription } from '#core/board/boardRef.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import type { ProofWorld } from '#core/proofs/proofs.ts';
import { demoCraft, demoValues, torvholm } from './demoCraft.ts';

const scenario: Scenario = {
  seed: 7,
  home: torvholm.home,
  wind: { speedMps: 8, fromDeg: 230, gustMps: 2 },
  outbound: { bearingDeg: 50, distanceM: 2500, heightM: 120 },
  events: [{ atS: 180, do: 'link-lost' }],
  limitS: 1500,
};

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
    scenario,
    site: torvholm,
    ...change,
  };
}
