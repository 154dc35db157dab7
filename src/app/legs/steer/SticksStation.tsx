import { type StickName, staleWords, stateOf, stickNames } from '#core/proofs/proofs.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { procedures } from '../../board/procedures.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectProofWorld, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../Lead.tsx';

const ask: Readonly<Record<StickName, string>> = {
  roll: 'Push the roll stick fully right, then let it go.',
  pitch: 'Pull the pitch stick fully back, towards you, then let it go.',
  throttle: 'Push the throttle from its low end fully forward.',
  yaw: 'Push the yaw stick fully right, then let it go.',
};

/** Which channel carries which stick, learnt by moving each once; then sticks move surfaces live. */
export default function SticksStation() {
  const values = useApp(selectValues);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const ready = useApp((s) => s.board.link === 'ready');
  const newest = useApp((s) => (s.procedure.newest?.kind === 'learn-stick' ? s.procedure.newest : null));
  const channels = useSampled(() => live('receiver')?.channels ?? null, 60);
  const runs = newest?.state === 'running' || newest?.state === 'away';
  const learning = runs ? (newest.asked.stick as StickName) : null;
  return (
    <>
      <Lead />

      <ul className="mt-4 max-w-[680px] space-y-2">
        {stickNames.map((stick) => {
          const channel = settingsOf(values).number(`rx.${stick}.channel`);
          const us = channels && channel >= 1 ? channels[channel - 1]! : null;
          const proof = proofs.find((p) => p.id === `stick.${stick}`);
          const state = stateOf(proof, world);
          return (
            <li
              key={stick}
              title={staleWords(proof, world)}
              className={`grid grid-cols-[170px_1fr_90px_110px] items-center gap-4 rounded-[4px] px-3 py-2 ${learning === stick ? 'bg-lake-wash' : 'bg-paper'}`}
            >
              <span className="font-medium">
                {stick}
                <small
                  className={`block text-[12px] leading-4 ${state === 'stale' ? 'text-red' : 'text-faint'}`}
                >
                  channel {channel},{' '}
                  {state === 'proven' ? 'seen' : state === 'stale' ? 'changed since' : 'not asked yet'}
                </small>
              </span>
              <PulseBar us={us} />
              <span className={`num text-right ${us === null ? 'text-faint' : 'text-lake'}`}>
                {us === null ? 'not live' : `${us.toFixed(0)} us`}
              </span>
              {learning === stick ? (
                <Button onClick={() => void procedures.cancel()}>Stop asking</Button>
              ) : (
                <Button disabled={!ready} onClick={() => void procedures.begin('learn-stick', { stick })}>
                  Ask for it
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      {learning && <Bar share={newest?.progress ?? 0} className="mt-2 max-w-[680px]" />}
      <p className="mt-2 min-h-10 max-w-[680px]" role="status">
        {learning ? (
          <>
            <b className="font-medium text-lake">{ask[learning]}</b>{' '}
            <span className="text-soft">{newest?.says}</span>
          </>
        ) : (
          newest?.says
        )}
      </p>
    </>
  );
}

/** A pulse between 900 and 2100 us as a mark on a line with its middle. */
function PulseBar({ us }: { readonly us: number | null }) {
  const x = us === null ? null : Math.min(100, Math.max(0, ((us - 900) / 1200) * 100));
  return (
    <span className="relative h-3 border-contour border-b" aria-hidden="true">
      <i className="absolute top-0 left-1/2 h-3 border-contour border-l border-dashed" />
      {x !== null && (
        <i className="absolute top-0 h-3 w-[3px] -translate-x-1/2 bg-lake" style={{ left: `${x}%` }} />
      )}
    </span>
  );
}
