import { useDeferredValue, useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { type AxisAnswer, axisAnswer, MARGIN_LEAST_DEG, usualSpeed } from '#core/answers/answers.ts';
import { figuresOf } from '#core/answers/stepAnswer.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { settingsOf } from '#core/settings/typed.ts';
import { formatClock, formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { FindGains } from './answers/FindGains.tsx';
import { gainKeys, scaledGains, timesOf } from './answers/gains.ts';
import { OtherwisePart } from './answers/OtherwisePart.tsx';
import { OverSpeeds } from './answers/OverSpeeds.tsx';
import { PhaseRibbon } from './answers/PhaseRibbon.tsx';
import { SHOWN_S, StepDrawing } from './answers/StepDrawing.tsx';
import { type Measured, useMeasured } from './answers/useMeasured.ts';
import { WhyPart } from './answers/WhyPart.tsx';
import { Begins } from './Begins.tsx';
import { NameColumns, RATES, TIME } from './NameColumns.tsx';

/** Slower than this over the stall nothing is promised; and so far beyond the fastest that is set. */
const SLOWEST_STALLS = 1.15;
const FASTEST_MORE = 1.25;

/** A rate that stays below this share of what was asked is not had. */
const LEAST_REACHED = 0.7;

/** How each axis answers as it is drafted: promised by the craft's own model before it flies. */
export default function AnswersStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const base = useApp((s) => s.settings.base);
  const pads = useApp((s) => selectDescription(s)?.pads);
  const [axis, setAxis] = useState<Axis>('roll');
  const [asked, setAsked] = useState<number | null>(null);
  const rotors = isRotorcraft(airframe);
  const [slowest, fastest] = useMemo(() => {
    if (rotors) return [0, 0];
    const s = settingsOf(values);
    return [
      SLOWEST_STALLS * stallSpeed(airframe),
      FASTEST_MORE * Math.max(s.number('nav.speed'), s.number('return.speed')),
    ];
  }, [rotors, airframe, values]);
  const speed = rotors ? 0 : Math.min(fastest, Math.max(slowest, asked ?? usualSpeed(airframe, values)));
  const drawn = useDeferredValue(values);
  const at = useDeferredValue(speed);
  const answer = useMemo(
    () => axisAnswer(airframe, drawn, pads ?? [], axis, at),
    [airframe, drawn, pads, axis, at],
  );
  const edited = gainKeys(axis).some((k) => base[k] !== values[k]);
  const before = useMemo(
    () =>
      edited ? axisAnswer(airframe, { ...drawn, ...onlyGains(base, axis) }, pads ?? [], axis, at) : null,
    [edited, airframe, drawn, base, pads, axis, at],
  );
  const most = (key: string) => catalogue.entry(key)?.max ?? Number.POSITIVE_INFINITY;
  const times = timesOf(base, values, axis);
  const { doing, here, fly, open } = useMeasured(axis, values);
  const seen = here.kind === 'seen' ? here.seen : null;
  return (
    <>
      <Begins
        doing={doing}
        axis={axis}
        onAxis={setAxis}
        nothing={answer === null}
        onFly={fly}
        file={{
          label: 'Log to lay over it',
          words: 'Lay a log over it',
          accept: '.log,.bin,.cbor,.csv,.tsv,.txt',
        }}
        onFile={(file) => open(file, speed)}
      />
      {answer ? (
        <>
          {here.kind === 'columns' && (
            <NameColumns
              file={here.file.name}
              names={here.names}
              wanted={columns}
              onNamed={(named) => open(here.file, speed, named)}
            />
          )}
          <div className="mt-3 grid gap-x-6 min-[900px]:grid-cols-[minmax(0,1fr)_200px]">
            <div>
              <StepDrawing
                answer={answer}
                before={before}
                flown={seen?.step ?? null}
                explained={seen?.why?.explained ?? null}
                times={times}
                onTimes={(k) => dispatch(staged(scaledGains(base, axis, k, most)))}
              />
              <p role="status" className={`mt-1 ${answer.state === 'rings' ? 'font-medium text-red' : ''}`}>
                {sentence(answer, units)}
              </p>
              {seen && (
                <>
                  <p className="text-lake">{seenSentence(seen, answer.loop.model.moves, units)}</p>
                  {seen.why && <WhyPart why={seen.why} airframe={airframe} values={values} axis={axis} />}
                </>
              )}
            </div>
            <div className="flex flex-wrap content-start gap-x-6 gap-y-3 min-[900px]:flex-col">
              <dl className="flex flex-wrap content-start gap-x-6 gap-y-3 min-[900px]:flex-col">
                {parts.map(([part, name, letter]) => (
                  <div key={part}>
                    <dt className="text-soft">
                      {name} <b className="font-semibold text-ink">{letter}</b>
                    </dt>
                    <dd>
                      <SettingField name={`rate.${axis}.${part}`} size="large" />
                    </dd>
                  </div>
                ))}
              </dl>
              {!rotors && catalogue.entry('rate.forwardLag') && (
                <dl className="flex gap-x-6">
                  {shaping.map(([key, name]) => (
                    <Named key={key} name={name}>
                      <SettingField name={key} />
                    </Named>
                  ))}
                </dl>
              )}
              <FindGains key={axis} axis={axis} speedMps={speed} />
            </div>
          </div>
          {here.kind === 'fault' && <Notice className="mt-2">{here.why}</Notice>}
          <PhaseRibbon answer={answer} />
          {!rotors && (
            <OverSpeeds
              airframe={airframe}
              values={drawn}
              pads={pads ?? []}
              axis={axis}
              slowest={slowest}
              fastest={fastest}
              speed={speed}
              onSpeed={setAsked}
            />
          )}
          <OtherwisePart answer={answer} airframe={airframe} values={drawn} pads={pads ?? []} axis={axis} />
        </>
      ) : (
        <p className="mt-4">
          Nothing on this craft turns it about {axis}: no surface, and no motor that would.
        </p>
      )}
    </>
  );
}

const columns = [
  TIME,
  { id: 'asked', name: 'Rate asked for', units: RATES },
  { id: 'came', name: 'Rate that came', units: RATES },
];

/** The gains by what each does to the line. */
const parts = [
  ['p', 'how it catches up', 'P'],
  ['i', 'how it settles', 'I'],
  ['d', 'how it brakes', 'D'],
  ['forward', 'how it starts', 'F'],
] as const;

/** What is done to what is asked before the feed-forward takes it, on all axes. */
const shaping = [
  ['rate.forwardLag', 'F smoothed'],
  ['rate.forwardLead', 'F ahead'],
] as const;

const onlyGains = (base: Readonly<Record<string, unknown>>, axis: Axis) =>
  Object.fromEntries(gainKeys(axis).map((k) => [k, base[k]])) as Record<string, number>;

function sentence(a: AxisAnswer, units: UnitSystem): string {
  const { figures: f, margin: m } = a;
  const where = a.speedMps === 0 ? 'In a hover' : `At ${formatQuantity(a.speedMps, 'm/s', units, 1)}`;
  if (a.state === 'rings')
    return `${where} it rings by itself${!Number.isNaN(m.ringsHz) ? `, ${formatNumber(m.ringsHz, 1)} times a second` : ''}: it must not fly so. Take the gains down together until the ribbon is whole.`;
  const rise =
    f.reaches < LEAST_REACHED
      ? `it comes to ${formatNumber(Math.max(0, 100 * f.reaches), 0)} % of what is asked and no farther: the feed-forward is too small for this air`
      : Number.isNaN(f.riseS)
        ? 'it does not get there'
        : `it is up in ${formatNumber(f.riseS, 2)} s`;
  const over = f.overshoot > 0.02 ? `, ${formatNumber(100 * f.overshoot, 0)} % over` : '';
  const push = `A push turns it ${formatNumber(a.pushed === 0 ? 1 : a.pushedAlone / a.pushed, 1)} times less than it would without its loop.`;
  const little =
    a.state === 'little-margin'
      ? ` Less than ${MARGIN_LEAST_DEG}° are left until it rings: a slower servo or a lighter craft uses them up.`
      : '';
  const follows = m.crossover?.follows ?? Number.POSITIVE_INFINITY;
  const servos = Number.isFinite(follows)
    ? ` Where it crosses over its servos follow swings of up to ${formatNumber(follows / DEG, 0)} °/s.`
    : '';
  return `${where} ${rise}${over}. ${push}${servos}${little}`;
}

function seenSentence({ step, from }: Measured, moves: 'servos' | 'motors', units: UnitSystem): string {
  const drawn = step.mean.subarray(0, Math.round(SHOWN_S / step.stepS));
  const f = figuresOf({ rates: drawn, commands: drawn, stepS: step.stepS }, 1);
  const sure = Math.max(1, 200 * Math.max(...step.spread.subarray(0, drawn.length)));
  const at =
    from.speedMps === null || from.speedMps < 6
      ? ''
      : ` at ${formatQuantity(from.speedMps, 'm/s', units, 1)}`;
  const figures = `up in ${formatNumber(f.riseS, 2)} s, ${formatNumber(100 * f.overshoot, 0)} % over, sure to ${formatNumber(sure, 0)} %`;
  const rate = (radps: number) => `${formatNumber(radps / DEG, 0)} °/s`;
  if (from.kind === 'bench')
    return `Flown in the bench${at}, its stick thrown about for a minute: ${figures}. It was asked for about ${rate(from.askedSize)}${moves === 'servos' ? '; a servo takes longer for more' : ''}.`;
  const gaps = from.gaps === 0 ? '' : `, over ${from.gaps} ${from.gaps === 1 ? 'gap' : 'gaps'}`;
  const by = from.ownSettings
    ? 'The log tells what it was flown by, and is compared with that.'
    : 'It does not tell what it was flown by: it is compared with what is drafted here.';
  return `By ${from.name}${at}: ${figures}. ${formatClock(from.seconds)} at ${formatNumber(from.rateHz, 0)} samples a second${gaps}, asked for up to ${rate(from.askedMost)}. ${by}`;
}
