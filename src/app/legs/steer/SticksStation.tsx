import { useRef, useState } from 'react';
import { learnStick, type StickWatch, startWatch } from '#core/calibration/stickLearning.ts';
import { type StickName, staleWords, stateOf, stickNames } from '#core/proofs/proofs.ts';
import { useFrame, useSampled } from '../../live/hooks.ts';
import { liveNumbers } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
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
  const dispatch = useAppDispatch();
  const [learning, setLearning] = useState<StickName | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const watch = useRef<StickWatch | null>(null);
  const channels = useSampled(() => liveNumbers('receiver'), 60);
  useFrame(() => {
    const live = liveNumbers('receiver');
    if (!learning || !live || !watch.current) return;
    const found = learnStick(watch.current, live.slice(0, 16));
    if (!found) return;
    const stick = learning;
    setLearning(null);
    watch.current = null;
    const edits: Record<string, number | boolean> = { [`rx.${stick}.channel`]: found.channel };
    // The stick that had this channel trades places, so that no two sticks share one on the way.
    const other = stickNames.find((s) => s !== stick && values[`rx.${s}.channel`] === found.channel);
    if (other) edits[`rx.${other}.channel`] = values[`rx.${stick}.channel`] as number;
    if (stick === 'pitch') edits['rx.pitch.pullHigh'] = found.toUs > found.fromUs;
    const backwards = stick !== 'pitch' && found.toUs < found.fromUs;
    dispatch(staged(edits));
    recordProof({
      kind: 'stick',
      stick,
      channel: found.channel,
      fromUs: Math.round(found.fromUs),
      toUs: Math.round(found.toUs),
    });
    setSaid(
      backwards
        ? `Channel ${found.channel} went from ${found.fromUs.toFixed(0)} down to ${found.toUs.toFixed(0)} us. The transmitter sends ${stick} the wrong way round: reverse it there, then ask again.`
        : `Channel ${found.channel} went from ${found.fromUs.toFixed(0)} to ${found.toUs.toFixed(0)} us, so it carries ${stick}.`,
    );
  });
  const begin = (stick: StickName) => {
    const live = liveNumbers('receiver');
    if (!live || live[16] === 0) {
      setSaid('The receiver sends nothing. Switch the transmitter on.');
      return;
    }
    watch.current = startWatch(live.slice(0, 16));
    setSaid(null);
    setLearning(stick);
  };
  return (
    <>
      <Lead />

      <ul className="mt-4 max-w-[680px] space-y-2">
        {stickNames.map((stick) => {
          const channel = values[`rx.${stick}.channel`] as number;
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
                <Button onClick={() => setLearning(null)}>Stop asking</Button>
              ) : (
                <Button disabled={!ready} onClick={() => begin(stick)}>
                  Ask for it
                </Button>
              )}
            </li>
          );
        })}
      </ul>
      <p className="mt-3 min-h-10 max-w-[680px]" role="status">
        {learning ? <b className="font-medium text-lake">{ask[learning]}</b> : said}
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
