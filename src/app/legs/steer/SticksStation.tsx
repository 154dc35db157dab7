import { staleWords, stateOf } from '#core/proofs/proofs.ts';
import { type StickName, stickNames } from '#core/proofs/seen.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { procedures } from '../../board/procedures.ts';
import { GIMBALS, TransmitterInHand } from '../../drawing/TransmitterInHand.tsx';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectProofWorld, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../Lead.tsx';
import { StickEnds } from './StickEnds.tsx';

const ask: Readonly<Record<StickName, string>> = {
  roll: 'Push the roll stick fully right, then let it go.',
  pitch: 'Pull the pitch stick fully back, towards you, then let it go.',
  throttle: 'Push the throttle from its low end fully forward.',
  yaw: 'Push the yaw stick fully right, then let it go.',
};

/** Where each is on the transmitter drawn here, and which way a thumb goes when it is asked for. */
const places: Readonly<
  Record<StickName, { readonly side: 'left' | 'right'; readonly x: number; readonly y: number }>
> = {
  roll: { side: 'right', x: 1, y: 0 },
  pitch: { side: 'right', x: 0, y: -1 },
  throttle: { side: 'left', x: 0, y: 1 },
  yaw: { side: 'left', x: 1, y: 0 },
};

/** -1..1 of a pulse about its middle. */
const throwOf = (us: number | null) => (us === null ? 0 : Math.max(-1, Math.min(1, (us - 1500) / 500)));

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
  const channelOf = (stick: StickName) => settingsOf(values).number(`rx.${stick}.channel`);
  const usOf = (stick: StickName) => {
    const channel = channelOf(stick);
    return channels && channel >= 1 ? (channels[channel - 1] ?? null) : null;
  };
  const pullHigh = settingsOf(values).flag('rx.pitch.pullHigh');
  const at = (x: StickName, y: StickName, sign = 1) =>
    channels ? { x: throwOf(usOf(x)), y: sign * throwOf(usOf(y)) } : null;
  return (
    <>
      <Lead>
        Receivers put the sticks in different orders. Move each stick once when asked, on your transmitter
        wherever it is; the channel that follows is the right one. Here the throttle is drawn on the left.
      </Lead>
      <div className="mt-2 grid items-center gap-4 min-[1500px]:grid-cols-[minmax(0,1fr)_250px]">
        <svg
          viewBox="-320 -128 640 262"
          className="max-h-[42vh] min-h-[290px] w-full min-w-[600px]"
          role="img"
          aria-label="The transmitter in the hands, its sticks where the board hears them"
        >
          <TransmitterInHand
            left={at('yaw', 'throttle')}
            right={at('roll', 'pitch', pullHigh ? -1 : 1)}
            asked={learning ? places[learning] : null}
          />
          {stickNames.map((stick) => {
            const { side, x } = places[stick];
            const [cx, cy] = GIMBALS[side];
            const along = x === 0;
            const us = usOf(stick);
            const s = side === 'left' ? -1 : 1;
            return (
              <text
                key={stick}
                x={along ? s * 196 : cx}
                y={along ? cy - 44 : cy - 46}
                textAnchor={along ? (side === 'left' ? 'end' : 'start') : 'middle'}
                fontSize={13}
                fill={learning === stick ? 'var(--lake)' : 'var(--soft)'}
                fontWeight={learning === stick ? 600 : 400}
              >
                {stick}, channel {channelOf(stick)}
                <tspan className="num" fill="var(--lake)" x={along ? s * 196 : cx} dy={along ? 15 : -15}>
                  {us === null ? '' : `${us.toFixed(0)} µs`}
                </tspan>
              </text>
            );
          })}
        </svg>
        <ul
          aria-label="Sticks"
          className="grid gap-x-6 gap-y-1 min-[700px]:grid-cols-2 min-[1500px]:grid-cols-1"
        >
          {stickNames.map((stick) => {
            const proof = proofs.find((p) => p.id === `stick.${stick}`);
            const state = stateOf(proof, world);
            return (
              <li
                key={stick}
                title={staleWords(proof, world)}
                className={`flex items-center gap-3 rounded-[4px] px-3 py-1.5 ${learning === stick ? 'bg-lake-wash' : ''}`}
              >
                <span className="flex-1 font-medium">
                  {stick}
                  <small
                    className={`block text-[12px] leading-4 font-normal ${state === 'stale' ? 'text-red' : state === 'proven' ? 'text-forest' : 'text-faint'}`}
                  >
                    channel {channelOf(stick)},{' '}
                    {state === 'proven' ? 'seen' : state === 'stale' ? 'changed since' : 'not asked yet'}
                  </small>
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
      </div>
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
      <StickEnds />
    </>
  );
}
