import { triedAt } from '#core/findings/rules/seen.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { proofWords } from '#core/proofs/proofWords.ts';
import { when } from '../history/words.ts';
import { selectProofWorld } from '../store/selectors.ts';
import { useApp } from '../store/store.ts';
import { useStationHere } from './stationHere.ts';

/** Everything that was seen at this station, with when and on which board, and since when it holds no longer. */
export default function SeenHere() {
  const { id } = useStationHere();
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld);
  const here = proofs.flatMap((p) => {
    const words = triedAt[p.seen.kind] === id ? proofWords(p.seen) : null;
    return words === null ? [] : [{ proof: p, words }];
  });
  if (!world || here.length === 0) return null;
  return (
    <details className="mt-4 border-line border-t pt-2 text-[13px]">
      <summary className="cursor-pointer text-soft">
        {here.length === 1 ? 'What was seen here' : `${here.length} things that were seen here`}
      </summary>
      <ul className="mt-1">
        {here.map(({ proof, words }) => {
          const since = staleWords(proof, world);
          return (
            <li key={proof.id} className="flex flex-wrap gap-x-4 border-line border-b py-1">
              <span className="min-w-[220px] flex-1">
                {words}
                {since && <span className="text-amber">; since then {since}</span>}
              </span>
              <span className="text-soft">{when(proof.at)}</span>
              <span className="code">{proof.board || 'no board'}</span>
            </li>
          );
        })}
      </ul>
    </details>
  );
}
