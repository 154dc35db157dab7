import { useEffect, useRef, useState } from 'react';
import { type Silence, SilenceWatch, unmasking } from '#core/calibration/silence.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { lossWords } from '#core/proofs/proofWords.ts';
import { stickNames } from '#core/proofs/seen.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatNumber } from '#core/units/units.ts';
import { useStatus } from '../../live/hooks.ts';
import { recent } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectProofWorld } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Lead } from '../Lead.tsx';
import { SilenceDrawn } from './SilenceDrawn.tsx';

const LOOK_MS = 80;
/** What a board tells so soon after it was told something may still be of before, s. */
const SETTLES_S = 0.5;

/** The transmitter is switched off on the bench, and what the receiver and the board make of that is seen. */
export default function RadioSilentStation() {
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const ready = useApp((s) => s.board.link === 'ready');
  const armed = useStatus()?.armed ?? false;
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'silence'));
  const dispatch = useAppDispatch();
  const watch = useRef<SilenceWatch | null>(null);
  const heardS = useRef(Number.NEGATIVE_INFINITY);
  const [canBegin, setCanBegin] = useState(false);
  const [marked, setMarked] = useState(false);
  const [share, setShare] = useState<number | null>(null);
  const [found, setFound] = useState<Silence | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const s = settingsOf(base);
  useEffect(() => {
    const set = settingsOf(base);
    const sticks = stickNames.map((n) => set.number(`rx.${n}.channel`));
    const anew = () => {
      watch.current = new SilenceWatch(set.number('rx.throttle.channel'), sticks);
      heardS.current = (recent('receiver', 2).at(-1)?.atS ?? Number.NEGATIVE_INFINITY) + SETTLES_S;
      setShare(null);
      setMarked(false);
    };
    anew();
    if (!ready) {
      setCanBegin(false);
      return;
    }
    const timer = setInterval(() => {
      const w = watch.current!;
      for (const { atS, value } of recent('receiver', 2)) {
        if (atS <= heardS.current) continue;
        heardS.current = atS;
        w.look({ atS, ...value });
      }
      for (const { atS, value } of recent('radio', 2)) w.count({ atS, ...value });
      setCanBegin(w.ready);
      if (!w.watching) return;
      setShare(w.share);
      const now = w.found;
      if (now === null) return;
      anew();
      if ('refused' in now) {
        setRefused(now.refused);
        return;
      }
      setFound(now);
      recordProof({ kind: 'silence', does: now.does, noticed: now.noticed, throttleUs: now.throttleUs });
    }, LOOK_MS);
    return () => clearInterval(timer);
  }, [ready, base]);

  const state = stateOf(proof, world);
  const kept = proof?.seen.kind === 'silence' && state === 'proven' ? proof.seen : null;
  const change = found && kept && !kept.noticed ? unmasking(found, s.number('rx.throttle.low')) : null;
  const waits = change !== null && Object.keys(change).some((k) => k in edits);
  const noticeS = s.number('lost.notice');
  return (
    <>
      <Lead />
      <SilenceDrawn does={kept?.does ?? null} noticed={kept?.noticed ?? null} watching={share !== null} />
      <ol className="mt-3 max-w-[700px] list-decimal space-y-1 pl-5">
        <li className={marked ? 'text-soft' : ''}>
          With the transmitter on, bring the throttle stick near its middle, so that held values are told from
          made-up ones, and leave the sticks alone. The craft is disarmed, nothing turns.
        </li>
        <li className={share !== null ? 'text-soft' : ''}>Switch the transmitter off, and say so.</li>
        <li>Leave it off for three seconds. Stirring its sticks shows that it really is.</li>
      </ol>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        {marked ? (
          <Button
            kind="go"
            disabled={!ready || armed || share !== null}
            onClick={() => {
              watch.current?.off(heardS.current);
              setShare(0);
            }}
          >
            It is off now
          </Button>
        ) : (
          <Button
            kind="go"
            disabled={!ready || armed || !canBegin}
            onClick={() => {
              setRefused(null);
              setFound(null);
              setMarked(watch.current?.mark() ?? false);
            }}
          >
            It is on, and still
          </Button>
        )}
        {share !== null && <Bar share={share} className="w-[220px]" />}
        <p className="min-w-[240px] flex-1 text-soft" role="status">
          {armed
            ? 'The craft is armed. Disarm first.'
            : share !== null
              ? 'The board listens to what the receiver does.'
              : !ready
                ? ''
                : found && !canBegin
                  ? 'Switch the transmitter on again.'
                  : marked
                    ? 'Now switch the transmitter off.'
                    : canBegin
                      ? 'The throttle stands well, and still.'
                      : 'The throttle has to be heard near its middle first.'}
        </p>
      </div>
      {refused && <Notice className="mt-3 max-w-[700px]">{refused}</Notice>}
      {kept && (
        <Notice tone={kept.noticed ? 'plain' : 'grave'} className="mt-3 max-w-[700px]">
          <p>
            <b className="font-semibold">
              With its transmitter off the receiver {lossWords[kept.does]}
              {kept.noticed ? ', and the board notices.' : ', and the board does not notice.'}
            </b>{' '}
            {kept.noticed
              ? `It takes the link for lost ${formatNumber(noticeS, 1)} s later, and does what is set under Return, When the link is lost.`
              : change
                ? waits
                  ? 'What unmasks it is in the tray. Write it, switch the transmitter on, and try once more.'
                  : unmaskWords(change)
                : 'Nothing that it sends tells a loss from a pilot: set it at the receiver, so that it falls silent or sends a throttle below what the stick can give, and try once more.'}
          </p>
          {change && !waits && (
            <Button className="mt-2" kind="go" onClick={() => dispatch(staged(change))}>
              Put into the tray
            </Button>
          )}
        </Notice>
      )}
      {state === 'stale' && (
        <p className="mt-3 text-red">Something was changed since it was tried: try it once more.</p>
      )}
    </>
  );
}

function unmaskWords(change: Readonly<Record<string, number>>): string {
  if (change['rx.lossBelow'] !== undefined)
    return `Its throttle goes lower than a stick can: below ${change['rx.lossBelow']} µs the board can take it for a loss.`;
  return `Channel ${change['rx.quality.channel']} tells how well it hears: it went from ${change['rx.quality.full']} to ${change['rx.quality.none']} µs while all others stayed. By that the board can notice.`;
}
