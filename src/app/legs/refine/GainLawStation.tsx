import { useDeferredValue, useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import type { GainBy } from '#core/control/gainLaw.ts';
import { type Axis, axes } from '#core/mixer/authority.ts';
import { displayOf, formatNumber, type UnitSystem } from '#core/units/units.ts';
import { selectCatalogue, selectDescription, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { workshop } from '../../workers/index.ts';
import { Lead } from '../Lead.tsx';
import { AtTheEnds } from './law/AtTheEnds.tsx';
import { LawDrawing } from './law/LawDrawing.tsx';
import { type DrawnLaw, drawnLaw } from './law/lawPoints.ts';
import { VoltageLaw } from './law/VoltageLaw.tsx';
import { useFinding } from './useFinding.ts';

const ways: readonly {
  readonly id: GainBy;
  readonly name: string;
  readonly wings: string;
  readonly rotors: string | null;
}[] = [
  { id: 'speed', name: 'Airspeed', wings: 'measured, or reckoned from satellites and wind', rotors: null },
  {
    id: 'throttle',
    name: 'Throttle',
    wings: 'without either: right in level flight, wrong in a dive',
    rotors: 'what a rotor turns grows with how fast it spins',
  },
  { id: 'nothing', name: 'Nothing', wings: 'the same at all speeds', rotors: 'the same at all throttles' },
];

/** How gains go with speed, throttle and battery. */
export default function GainLawStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const now = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const pads = useApp((s) => selectDescription(s)?.pads) ?? noPads;
  const [axis, setAxis] = useState<Axis>('roll');
  const values = useDeferredValue(now);
  const rotors = isRotorcraft(airframe);
  const drawn = useMemo(() => drawnLaw(airframe, values, pads, axis), [airframe, values, pads, axis]);
  const { finding, fault, find } = useFinding();
  const { by } = drawn.law;
  const settable = catalogue.entry('rate.by') !== undefined;
  const turns = drawn.points.some((p) => Number.isFinite(p.wanted.gain));
  const put = (key: 'rate.lowest' | 'rate.highest') => (x: number) => {
    const entry = catalogue.entry(key);
    const share = Math.round(100 * drawn.shareAt(x)) / 100;
    dispatch(staged({ [key]: Math.min(entry?.max ?? share, Math.max(entry?.min ?? share, share)) }));
  };
  const workOut = () =>
    find(async (craft) => {
      // Of rotors only the throttle is there to go by.
      const goes = rotors || by === 'throttle' ? 'throttle' : 'speed';
      const edits = await workshop().solveGainLaw(craft.airframe, craft.values, craft.pads, goes);
      return Object.keys(edits).length > 0
        ? { edits }
        : { fault: 'Nothing turns this craft about roll or pitch, so there is no law for it.' };
    });
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
        </div>
        {settable && (
          <Button disabled={finding} onClick={() => void workOut()}>
            {finding ? 'Working it out …' : 'Work it out for this craft'}
          </Button>
        )}
      </div>
      {settable ? (
        <RadioCards
          label="Gains go by"
          className="mt-3 flex flex-wrap gap-2"
          value={by}
          cards={ways.flatMap(({ id, name, ...after }) => {
            const means = rotors ? after.rotors : after.wings;
            return means === null ? [] : [{ id, name, after: means }];
          })}
          onChange={(id) => dispatch(staged({ 'rate.by': id }))}
        />
      ) : (
        <p className="mt-3 text-soft">
          {rotors
            ? 'With this firmware the gains of rotors are the same at all throttles. From Pfad 3.2 they may go by throttle and voltage.'
            : 'With this firmware gains go by airspeed in one way, from 0.6 to 2 times the reference. From Pfad 3.2 the law is set.'}
        </p>
      )}
      {fault && <Notice className="mt-2">{fault}</Notice>}
      <RadioCards
        label="Axis"
        className="mt-3 flex flex-wrap gap-2"
        value={axis}
        cards={axes.map((a) => ({ id: a, name: a[0]!.toUpperCase() + a.slice(1) }))}
        onChange={setAxis}
      />
      {turns ? (
        <>
          <div className="mt-3 grid gap-x-6 gap-y-3 min-[900px]:grid-cols-[minmax(0,1fr)_190px]">
            <LawDrawing
              points={drawn.points}
              ticks={ticksOf(drawn, rotors, units)}
              reference={drawn.reference}
              lowest={settable ? drawn.lowest : null}
              highest={settable ? drawn.highest : null}
              onLowest={put('rate.lowest')}
              onHighest={put('rate.highest')}
              step={rotors ? 0.01 : 0.2}
              shown={rotors ? { factor: 1, symbol: 'share of throttle' } : displayOf('m/s', units)}
            />
            <dl className="flex flex-wrap content-start gap-x-6 gap-y-3 min-[900px]:flex-col">
              {!rotors && (
                <Named name="as written at">
                  <SettingField name={by === 'throttle' ? 'motor.cruise' : 'rate.reference'} size="large" />
                </Named>
              )}
              {settable && by !== 'nothing' && (
                <>
                  <Named name="P, I and D to the power">
                    <SettingField name="rate.power" size="large" />
                  </Named>
                  {!rotors && (
                    <Named name="feed-forward to the power">
                      <SettingField name="rate.forwardPower" size="large" />
                    </Named>
                  )}
                  {by === 'throttle' && (
                    <Named name="behind the throttle by">
                      <SettingField name="rate.throttleLag" size="large" />
                    </Named>
                  )}
                </>
              )}
            </dl>
          </div>
          <p role="status" className="mt-1 max-w-[720px]">
            {sentence(drawn, rotors)}
          </p>
          <AtTheEnds airframe={airframe} values={values} pads={pads} axis={axis} />
          {rotors && catalogue.entry('rate.voltPower') && (
            <VoltageLaw airframe={airframe} values={values} pads={pads} axis={axis} />
          )}
        </>
      ) : (
        <p className="mt-4">
          Nothing on this craft turns it about {axis}: no surface, and no motor that would.
        </p>
      )}
    </>
  );
}

const noPads: [] = [];

const TICKS = 5;

function ticksOf({ points }: DrawnLaw, rotors: boolean, units: UnitSystem) {
  const [from, to] = [points[0]!.x, points.at(-1)!.x];
  const { factor, symbol } = displayOf('m/s', units);
  const shown = rotors ? 100 : factor;
  const each = niceEach(((to - from) * shown) / TICKS);
  const first = Math.ceil((from * shown) / each);
  const last = Math.floor((to * shown) / each);
  return Array.from({ length: last - first + 1 }, (_, k) => ({
    x: ((first + k) * each) / shown,
    text: `${formatNumber((first + k) * each, 0)}${k === 0 ? ` ${rotors ? '%' : symbol}` : ''}`,
  }));
}

function niceEach(about: number): number {
  const size = 10 ** Math.floor(Math.log10(about));
  const lead = about / size;
  return Math.max(1, (lead > 5 ? 10 : lead > 2 ? 5 : lead > 1 ? 2 : 1) * size);
}

/** How far the law is from what the craft would want, at its worst. */
function sentence({ points, law }: DrawnLaw, rotors: boolean): string {
  const known = points.filter((p) => Number.isFinite(p.wanted.gain));
  const off = known.map((p) => ({ ...p, by: Math.log(p.gain / p.wanted.gain) }));
  const worst = off.reduce((a, b) => (Math.abs(b.by) > Math.abs(a.by) ? b : a));
  const times = Math.exp(Math.abs(worst.by));
  const where = worst.x === known[0]!.x ? 'slow' : worst.x === known.at(-1)!.x ? 'fast' : 'middle';
  const place = {
    slow: rotors ? 'with little throttle' : 'near the stall',
    fast: rotors ? 'with much throttle' : 'at its fastest',
    middle: 'between',
  }[where];
  const level =
    times < 1.15
      ? 'In level flight gains keep within 15 % of what this craft wants.'
      : `Gains are farthest off ${place}: ${formatNumber(times, 1)} times ${worst.by > 0 ? 'more' : 'less'} than this craft wants there.`;
  const shut = known.at(-1)!;
  const over = shut.shut / shut.wanted.gain;
  return law.by === 'throttle' && !rotors && over > 1.5
    ? `${level} In a dive with the throttle shut they take it for slow: ${formatNumber(over, 1)} times more than it wants at its fastest.`
    : rotors
      ? level.replace('In level flight gains', 'Gains')
      : level;
}
