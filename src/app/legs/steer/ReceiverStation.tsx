import { useEffect, useRef, useState } from 'react';
import { portFor, portsOf } from '#core/board/portUses.ts';
import { type QualityFound, qualityFrom } from '#core/calibration/linkQuality.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { stickNames } from '#core/proofs/seen.ts';
import { protocolNames } from '#core/sensors/receiverFrames.ts';
import { settingOf, settingsOf } from '#core/settings/typed.ts';
import { formatNumber } from '#core/units/units.ts';
import { procedures } from '../../board/procedures.ts';
import { useSampled } from '../../live/hooks.ts';
import { live, recent } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectDescription, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Facts } from '../../ui/Facts.tsx';
import { Lead } from '../Lead.tsx';

/** Frames are counted over so long, s. */
const OVER_S = 3;

/** What comes to the port, per second; null while the board does not tell it. */
function frameRates() {
  const told = recent('radio', OVER_S);
  const [first, last] = [told[0], told.at(-1)];
  const seconds = first && last ? last.atS - first.atS : 0;
  if (!first || !last || seconds < 1) return null;
  const per = (of: 'heard' | 'frames' | 'refused' | 'faults') =>
    Math.max(0, last.value[of] - first.value[of]) / seconds;
  return { heard: per('heard'), frames: per('frames'), refused: per('refused'), faults: per('faults') };
}

type Rates = NonNullable<ReturnType<typeof frameRates>>;

/** How it stands with the link, in words, and what to do. */
function stateOfLink(rates: Rates | null, port: string): readonly [good: boolean, words: string] {
  if (!rates) return [false, 'The board has not told long enough yet.'];
  if (rates.heard < 1)
    return [false, `Nothing comes to ${port}. Switch the transmitter on, and look at the receiver’s lamp.`];
  if (rates.frames < 1)
    return [
      false,
      `Something comes to ${port}, and no whole frame of it: let the board listen for every protocol.`,
    ];
  if (rates.refused > 0.5 * rates.frames)
    return [false, 'The receiver speaks, and says that it does not hear its transmitter.'];
  return [true, `Linked: ${rates.frames.toFixed(0)} whole frames a second.`];
}

const lamp: readonly (readonly [does: string, means: string])[] = [
  ['dark', 'no power: see which supply feeds it, in Wiring'],
  ['slow flashes', 'power, and no transmitter heard: switch it on, or bring it nearer'],
  [
    'double or quick flashes',
    'not bound: hold its button while it gets power, and set the transmitter to bind',
  ],
  ['steady', 'it hears its transmitter: what is wrong then is between it and the board'],
];

/** Protocol, frames and the link's quality. */
export default function ReceiverStation() {
  const values = useApp(selectValues);
  const description = useApp(selectDescription);
  const world = useApp(selectProofWorld)!;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'receiver'));
  const ready = useApp((s) => s.board.link === 'ready');
  const newest = useApp((s) => (s.procedure.newest?.kind === 'listen-receiver' ? s.procedure.newest : null));
  const listening = newest?.state === 'running' || newest?.state === 'away';
  const rates = useSampled(frameRates, 400);
  const quality = useSampled(() => live('receiver')?.quality ?? null, 300);
  const port = (description && portFor(description, values, 'receiver')?.name) ?? 'the receiver’s port';
  const [good, words] = stateOfLink(ready ? rates : null, port);
  const { frames = 0, faults = 0 } = rates ?? {};
  const damaged = frames + faults > 0 ? faults / (frames + faults) : 0;
  const protocol = settingsOf(values).choice('rx.protocol');
  /** Ports that are for nothing: the receiver may hang on one of them. */
  const free = (description ? portsOf(description, values) : [])
    .filter((p) => p.use === 'free')
    .map((p) => p.n)
    .join(',');
  return (
    <>
      <Lead />
      <div className="mt-3 grid gap-x-8 gap-y-4 min-[900px]:grid-cols-2">
        <section aria-label="What comes in">
          <p className={`font-semibold ${good ? 'text-forest' : ''}`} role="status">
            {ready ? words : 'No board is on the cable.'}
          </p>
          <Facts className="mt-2 gap-x-6">
            <dt>Port</dt>
            <dd>{port}</dd>
            <dt>Listens for</dt>
            <dd>
              {protocolNames[protocol]}
              {settingOf(values, 'rx.levels') === 'turned' && ', levels turned round'}
              {settingOf(values, 'rx.wires') === 'one' && ', one wire both ways'}
            </dd>
            <dt>Whole frames</dt>
            <dd className="num">{rates ? `${frames.toFixed(0)} a second` : '–'}</dd>
            <dt>Damaged</dt>
            <dd className="num">{rates ? `${formatNumber(100 * damaged, 1)} %` : '–'}</dd>
            <dt>Link</dt>
            <dd className="num">{quality === null ? '–' : `${Math.round(100 * quality)} %`}</dd>
          </Facts>
          <div className="mt-3 flex flex-wrap items-center gap-2">
            {listening ? (
              <Button onClick={() => void procedures.cancel()}>Stop listening</Button>
            ) : (
              <Button
                kind={good ? 'plain' : 'go'}
                disabled={!ready}
                onClick={() => void procedures.begin('listen-receiver', { ports: free })}
              >
                Listen for every protocol
              </Button>
            )}
            <Button
              kind={good && stateOf(proof, world) !== 'proven' ? 'go' : 'plain'}
              disabled={!good || listening}
              onClick={() => recordProof({ kind: 'receiver', protocol, hz: frames, damaged })}
            >
              {stateOf(proof, world) === 'proven' ? 'Keep it again' : 'Keep as seen'}
            </Button>
          </div>
          {listening && <Bar share={newest.progress} className="mt-2 max-w-[360px]" />}
          {newest && (
            <p className={`mt-2 ${newest.state === 'failed' ? 'text-red' : 'text-soft'}`} role="status">
              {newest.says}
            </p>
          )}
        </section>
        <section aria-label="Its lamp">
          <h2 className="font-semibold">What its lamp means, on most receivers</h2>
          <ul className="mt-1 text-soft">
            {lamp.map(([does, means]) => (
              <li key={does} className="mt-1">
                <b className="font-medium text-ink">{does}</b>: {means}
              </li>
            ))}
          </ul>
        </section>
      </div>
      <LinkQuality />
    </>
  );
}

/** So much of what was heard counts for a gesture, s. */
const GESTURE_S = 1;

/** Where the receiver says how well it hears: two gestures, near and weak. */
function LinkQuality() {
  const values = useApp(selectValues);
  const ready = useApp((s) => s.board.link === 'ready');
  const dispatch = useAppDispatch();
  const near = useRef<{ channels: readonly number[]; quality: number } | null>(null);
  const [step, setStep] = useState<'rest' | 'near' | 'found'>('rest');
  const [found, setFound] = useState<QualityFound | null>(null);
  useEffect(() => {
    if (ready) return;
    near.current = null;
    setStep((s) => (s === 'near' ? 'rest' : s));
  }, [ready]);
  const s = settingsOf(values);
  const channel = s.number('rx.quality.channel');
  const mean = () => {
    const heard = recent('receiver', GESTURE_S);
    if (heard.length === 0) return null;
    const channels = heard[0]!.value.channels.map(
      (_, k) => heard.reduce((sum, h) => sum + h.value.channels[k]!, 0) / heard.length,
    );
    return { channels, quality: heard.reduce((sum, h) => sum + h.value.quality, 0) / heard.length };
  };
  const hands = [
    ...stickNames.map((n) => s.number(`rx.${n}.channel`)),
    ...Object.keys(values).flatMap((k) =>
      /^(arm|mode\.\w+|flap|set)\.channel$/.test(k) && typeof values[k] === 'number' ? [values[k]] : [],
    ),
  ];
  const takeWeak = () => {
    const weak = mean();
    if (!near.current || !weak) return;
    const q = qualityFrom(near.current, weak, hands);
    setFound(q);
    setStep('found');
    if (q.kind === 'channel')
      dispatch(
        staged({
          'rx.quality.channel': q.channel,
          'rx.quality.none': q.noneUs,
          'rx.quality.full': q.fullUs,
        }),
      );
    else if (q.kind === 'protocol' && channel !== 0) dispatch(staged({ 'rx.quality.channel': 0 }));
  };
  return (
    <section className="mt-4 max-w-[760px] border-line border-t pt-3" aria-label="Link quality">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">How well it hears</h2>
        <p className="min-w-[240px] flex-1 text-soft" role="status">
          {step === 'near'
            ? 'Now make the link weak: take the receiver’s aerial off or carry the transmitter far away, and wait two seconds.'
            : step === 'found' && found
              ? qualityWords(found)
              : channel > 0
                ? `Channel ${channel} carries it: ${s.number('rx.quality.none')} µs for nothing, ${s.number('rx.quality.full')} µs for all.`
                : 'The protocol tells it, or nobody does. Two gestures find out: near, then weak.'}
        </p>
        {step === 'near' ? (
          <>
            <Button kind="go" disabled={!ready} onClick={takeWeak}>
              It is weak now
            </Button>
            <Button onClick={() => setStep('rest')}>Leave it</Button>
          </>
        ) : (
          <Button
            disabled={!ready}
            onClick={() => {
              near.current = mean();
              setFound(null);
              setStep(near.current ? 'near' : 'rest');
            }}
          >
            It is near, with its aerial on
          </Button>
        )}
      </div>
    </section>
  );
}

function qualityWords(q: QualityFound): string {
  switch (q.kind) {
    case 'channel':
      return `Channel ${q.channel} went from ${Math.round(q.fullUs)} to ${Math.round(q.weakUs)} µs: it carries how well it hears, and counts ${q.fullUs < q.weakUs ? 'downwards' : 'upwards'}. That is in the tray; what it gives for nothing at all is seen when the radio falls silent.`;
    case 'protocol':
      return `The protocol tells it: from ${Math.round(100 * q.near)} to ${Math.round(100 * q.weak)} %. The board needs no channel for it.`;
    case 'nobody':
      return 'Nothing changed: this receiver does not tell how well it hears, or the link was as good as before.';
  }
}
