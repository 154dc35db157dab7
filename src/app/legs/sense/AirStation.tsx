import { useState } from 'react';
import { mean } from '#core/analysis/spread.ts';
import { BARO_LEAST_S, baroAtRest } from '#core/calibration/airWatch.ts';
import { dayFromField, STANDARD_DAY, standardAir, temperatureOn } from '#core/flight/atmosphere.ts';
import { settingOf } from '#core/settings/typed.ts';
import { displayOf, formatQuantity } from '#core/units/units.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { LivePlot } from '../../ui/LivePlot.tsx';
import { Lead } from '../Lead.tsx';
import { Disturbed, heightsOf } from './Disturbed.tsx';
import { Figure } from './Figure.tsx';
import { OpticalFlow, Range } from './LowSensors.tsx';
import { useProven } from './useGestures.ts';

const HZ = 25;
const SHOWN_S = 60;

/** The barometer at rest and disturbed, and what looks at the ground where there is such. */
export default function AirStation() {
  const units = useApp((s) => s.ui.units);
  const values = useApp(selectValues);
  const { ring, fault } = useStreamRing('barometer', HZ, 1, SHOWN_S);
  const rest = useProven('baro');
  const [said, setSaid] = useState<string | null>(null);
  const seconds = useSampled(() => ring.unbroken / HZ, 400);
  const { symbol, factor } = displayOf('m', units);
  const m = (v: number, digits = 2) => formatQuantity(v, 'm', units, digits);

  const takeRest = () => {
    const result = baroAtRest(heightsOf(ring, HZ, Math.min(SHOWN_S, ring.unbroken / HZ)), HZ);
    if ('refused' in result) {
      setSaid(result.refused);
      return;
    }
    setSaid(null);
    const { noiseM, driftMPerMin, verdict } = result;
    recordProof({ kind: 'baro', noiseM, driftMPerMin, verdict });
  };
  const still = rest?.seen.kind === 'baro' ? rest.seen : null;
  return (
    <>
      <Lead />
      <div className="mt-2">
        {fault ? (
          <p role="alert" className="text-red">
            {fault}
          </p>
        ) : seconds === 0 ? (
          <p role="status" className="text-soft">
            Nothing comes from the barometer. Where it has power from the battery only, plug that in; else it
            is dead, and The board says what answers.
          </p>
        ) : null}
        <LivePlot
          label="Height by the barometer, over the last minute"
          lines={[{ name: 'height by the barometer', token: '--lake' }]}
          unit={symbol}
          heightPx={170}
          read={() => {
            const all = heightsOf(ring, HZ, SHOWN_S);
            const base = all[0] ?? 0;
            return [all.map((_, i) => (i - all.length + 1) / HZ), all.map((h) => (h - base) * factor)];
          }}
        />
      </div>
      <Weather ring={ring} />
      <section className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
        <div className="min-w-[240px] flex-1">
          <h2 className="font-semibold">Left alone</h2>
          {still ? (
            <p className="mt-1">
              <Figure value={m(still.noiseM)} words="of noise" />
              <Figure value={m(still.driftMPerMin)} words="of drift a minute" />
              <span className={still.verdict === 'good' ? 'text-forest' : 'text-amber'}>
                {still.verdict === 'good'
                  ? 'As a good chip.'
                  : still.verdict === 'drifts'
                    ? 'It drifts: let it warm up, and arm only then; height counts from arming.'
                    : 'Loud: something blows or knocks at it even now, or it is broken.'}
              </span>
            </p>
          ) : (
            <p className="text-soft" role="status">
              {seconds < BARO_LEAST_S
                ? `${seconds.toFixed(0)} of ${BARO_LEAST_S} s heard. Doors shut, hands off.`
                : `${seconds.toFixed(0)} s are there. Was it left alone all the while?`}
            </p>
          )}
        </div>
        <Button kind={still ? 'plain' : 'go'} disabled={seconds < BARO_LEAST_S} onClick={takeRest}>
          {still ? 'Measure again' : 'It was left alone'}
        </Button>
      </section>
      {said && (
        <p className="text-amber" role="alert">
          {said}
        </p>
      )}
      <Disturbed ring={ring} hz={HZ} />
      {settingOf(values, 'range.fitted') === true && <Range />}
      {settingOf(values, 'flow.fitted') === true && <OpticalFlow />}
    </>
  );
}

/** From so far apart the rehearsed air is another than that outside, hPa. */
const WEATHER_HPA = 2;

/** The day's pressure at the site, for the flights that are rehearsed there. */
function Weather({ ring }: { readonly ring: StreamRing }) {
  const site = useApp((s) => s.site.current);
  const drafted = useApp((s) => s.rehearsal.scenario.air);
  const dispatch = useAppDispatch();
  const pascal = useSampled(() => (ring.unbroken > HZ ? mean(ring.newest(0, HZ)) : Number.NaN), 1000);
  if (!site || Number.isNaN(pascal)) return null;
  const { heightM } = site.home;
  const air = drafted ?? site.air ?? standardAir(heightM);
  const sea = dayFromField(heightM, pascal, temperatureOn(STANDARD_DAY, heightM)).pressurePa / 100;
  const here = Math.round(pascal / 100);
  const other = Math.abs(here - air.pressureHpa) > WEATHER_HPA;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-4 text-[13px] text-soft">
      <span>
        <span className="num">{(pascal / 100).toFixed(1)}</span> hPa here, which at {site.name} is{' '}
        <span className="num">{sea.toFixed(0)}</span> hPa at sea level.
      </span>
      {other && here >= 870 && here <= 1085 && (
        <Button kind="flat" onClick={() => dispatch(scenarioChanged({ air: { ...air, pressureHpa: here } }))}>
          Rehearse in this weather
        </Button>
      )}
    </p>
  );
}
