import { useDeferredValue, useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { shaftHz } from '#core/airframe/shaftSpeed.ts';
import { middleOf } from '#core/analysis/throttleSpectra.ts';
import { axisAnswer, usualSpeed } from '#core/answers/answers.ts';
import { LOOP_S } from '#core/answers/chain.ts';
import { commandPowers, commandShake, delaysOf, loudestLine } from '#core/answers/filterChoice.ts';
import { type LoopWork, loopWork } from '#core/answers/loopWork.ts';
import { priceOfShake, type ShakePrice } from '#core/answers/shakePrice.ts';
import { filtersOf } from '#core/control/gyroFilter.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Axis } from '#core/mixer/authority.ts';
import { type SettingKey, settingsOf } from '#core/settings/typed.ts';
import { formatClock, formatNumber } from '#core/units/units.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Notice } from '../../ui/Notice.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Begins } from './Begins.tsx';
import { NameColumns, RATES, TIME } from './NameColumns.tsx';
import { DelayBar } from './shakes/DelayBar.tsx';
import { FindFilters } from './shakes/FindFilters.tsx';
import { ShakeMap } from './shakes/ShakeMap.tsx';
import { useShake } from './shakes/useShake.ts';

/** Where a loop that crosses over nowhere is looked at, Hz. */
const USUAL_HZ = 5;

const columns = [
  TIME,
  {
    id: 'throttle',
    name: 'Throttle',
    units: [
      ['pct', '%'],
      ['share', '0 to 1'],
    ],
  },
  { id: 'came', name: 'Gyro, unfiltered', units: RATES },
] as const;

/** Every filter of the chain, in the order in which they are passed, how often loops run behind them, and what a flight tells of it. */
const stages = [
  {
    name: 'Notch',
    fields: [
      ['gyro.notch', 'at'],
      ['gyro.notchQ', 'Q'],
      ['gyro.notchHarmonics', 'how many'],
      ['gyro.notchFollows', '\u00a0'],
      ['gyro.notchPower', 'by the power'],
      ['gyro.notchTold', '\u00a0'],
    ],
  },
  {
    name: 'Tracking notches',
    fields: [
      ['gyro.track', 'how many'],
      ['gyro.trackFrom', 'from'],
      ['gyro.trackTo', 'to'],
      ['gyro.trackQ', 'Q'],
    ],
  },
  {
    name: 'Low-pass',
    fields: [
      ['gyro.cutoff', 'at'],
      ['gyro.kind', 'is'],
      ['gyro.poles', 'poles'],
      ['gyro.cutoff2', 'a second one at'],
      ['gyro.yawCutoff', 'of yaw besides at'],
    ],
  },
  {
    name: 'D',
    fields: [
      ['rate.dCutoff', 'low-pass at'],
      ['rate.dPoles', 'poles'],
    ],
  },
  { name: 'Loops', fields: [['loop.rate', 'run']] },
  {
    name: 'In its log',
    fields: [
      ['log.gyro', '\u00a0'],
      ['log.loops', '\u00a0'],
      ['log.rate', 'all else'],
    ],
  },
] as const satisfies readonly {
  readonly name: string;
  readonly fields: readonly (readonly [SettingKey, string])[];
}[];

/** A board's own log, or a table. */
const LOGS = '.log,.bin,.cbor,.csv,.tsv,.txt';

/** More than this nobody measures, dB. */
const MOST_DB = 60;

/** What the gyro shakes with, what the filters leave of it, what they cost, and what is left moves. */
export default function ShakesStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const pads = useApp((s) => selectDescription(s)?.pads);
  const catalogue = useApp(selectCatalogue);
  const [axis, setAxis] = useState<Axis>('roll');
  const { doing, fly, open } = useShake();
  const drawn = useDeferredValue(values);
  const rotors = isRotorcraft(airframe);
  const speed = usualSpeed(airframe, drawn);
  const answer = useMemo(
    () => axisAnswer(airframe, drawn, pads ?? [], axis, speed),
    [airframe, drawn, pads, axis, speed],
  );
  const set = useMemo(() => filtersOf(drawn), [drawn]);
  const middle = settingsOf(drawn).number(rotors ? 'hover.throttle' : 'motor.cruise');
  const shaft = useMemo(() => {
    const known = Array.from({ length: 21 }, (_, k) => shaftHz(airframe, k / 20, speed));
    return (throttle: number) => {
      const k = Math.min(19, Math.floor(throttle * 20));
      return known[k]! + (throttle * 20 - k) * (known[k + 1]! - known[k]!);
    };
  }, [airframe, speed]);
  const shake = doing.kind === 'seen' ? doing.seen : null;
  const spectra = shake?.by(axis) ?? null;
  const crossHz = answer?.margin.crossover?.hz ?? USUAL_HZ;
  const moved = spectra && answer ? commandShake(spectra, set, middle, answer.loop, shaft) : [];
  const worst = moved.reduce((w, m, k) => (m > (moved[w] ?? -1) ? k : w), -1);
  const powers = spectra && answer ? commandPowers(spectra, set, middle, answer.loop, shaft)[worst] : null;
  const price =
    spectra && answer && powers
      ? priceOfShake(airframe, drawn, axis, powers, spectra.stepHz, answer.loop.waitS)
      : null;
  const loudest = spectra && worst >= 0 ? loudestLine(spectra, worst, set, middle, shaft) : null;
  return (
    <>
      <Begins
        doing={doing}
        axis={axis}
        onAxis={setAxis}
        onFly={fly}
        file={{ label: 'Log of a gyro', words: 'Open a log of it', accept: LOGS }}
        onFile={open}
      />
      {doing.kind === 'columns' && (
        <NameColumns
          file={doing.file.name}
          names={doing.names}
          wanted={columns}
          onNamed={(named) => open(doing.file, named)}
        />
      )}
      {doing.kind === 'fault' && <Notice>{doing.why}</Notice>}
      {spectra ? (
        <ShakeMap spectra={spectra} set={set} middle={middle} shaft={shaft} />
      ) : (
        <p className="mt-4 max-w-[660px] text-soft">
          Nothing was flown yet. <b className="font-semibold text-ink">Fly it</b> takes the craft up in the
          bench and moves its throttle from end to end for a minute. A board’s own log of a real flight does,
          where it logged the raw gyro; a table needs time, throttle and the unfiltered gyro, several hundred
          times a second.
        </p>
      )}
      {shake && (
        <p role="status" className="mt-1">
          {shake.file ?? 'Flown in the bench'}: {formatClock(shake.seconds)} at{' '}
          {formatNumber(shake.rateHz, 0)} samples a second.{' '}
          {worst >= 0 &&
            `As the filters are, shake moves its ${rotors ? 'motors' : 'servos'} by up to ${formatNumber(100 * moved[worst]!, 2)} % of their way, at ${formatNumber(100 * middleOf(worst, moved.length), 0)} % throttle${loudest ? `; what shakes most there is at ${formatNumber(loudest.hz, 0)} Hz, ${formatNumber(loudest.rms / DEG, 1)} °/s of it, of which the filters take ${loudest.takenDb > MOST_DB ? `more than ${MOST_DB}` : formatNumber(loudest.takenDb, 0)} dB` : ''}. ${price ? priceWords(price) : ''}`}
        </p>
      )}
      {stages
        .map(({ name, fields }) => ({ name, fields: fields.filter(([key]) => catalogue.entry(key)) }))
        .filter(({ fields }) => fields.length > 0)
        .map(({ name, fields }) => (
          <section key={name} aria-label={name} className="mt-3 border-line border-t pt-2 min-[700px]:flex">
            <h2 className="w-36 shrink-0 font-semibold">{name}</h2>
            <dl className="flex flex-wrap gap-x-7 gap-y-2">
              {fields.map(([key, what]) => (
                <div key={key}>
                  <dt className="text-[13px] text-soft">{what}</dt>
                  <dd>
                    <SettingField name={key} />
                  </dd>
                </div>
              ))}
              {name === 'Loops' && (
                <div>
                  <dt className="text-[13px] text-soft">load</dt>
                  <dd>{loadWords(loopWork(drawn))}</dd>
                </div>
              )}
            </dl>
          </section>
        ))}
      <DelayBar
        delays={delaysOf(set, crossHz)}
        loopMs={1000 * (answer?.loop.loopS ?? LOOP_S)}
        pulseMs={answer ? 500 * answer.loop.waitS : 0}
        hz={crossHz}
      />
      {spectra && answer && (
        <FindFilters
          spectra={spectra}
          middle={middle}
          axis={axis}
          speedMps={speed}
          crossHz={crossHz}
          shaft={shaft}
          moves={rotors ? 'motors' : 'servos'}
        />
      )}
    </>
  );
}

const thousands = (n: number) => formatNumber(n / 1000, 0);
const loadWords = ({ filters, loops }: LoopWork): string =>
  `${thousands(filters + loops)} thousand multiplications a second, ${thousands(filters)} of filters and ${thousands(loops)} of loops`;

const priceWords = (price: ShakePrice): string =>
  price.kind === 'heat'
    ? `That heats each motor by ${formatNumber(price.watts, 2)} W, beside ${formatNumber(price.hoverWatts, 1)} W that it loses in a hover.`
    : `It wears them by ${formatNumber(price.waysPerHour, 0)} ways from end to end an hour.`;
