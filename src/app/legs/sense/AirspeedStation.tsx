import { useRef, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { mean, spread } from '#core/analysis/spread.ts';
import { airspeedFromCircles } from '#core/calibration/airspeedCircles.ts';
import { tubeSeen } from '#core/calibration/airWatch.ts';
import { circleSamplesOf } from '#core/calibration/fromFlight.ts';
import { airspeedOfPressure } from '#core/flight/atmosphere.ts';
import { settingOf } from '#core/settings/typed.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { recordProof } from '../../session.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { LivePlot } from '../../ui/LivePlot.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { Figure } from './Figure.tsx';
import { OpenLog, useFlown } from './FlownBy.tsx';
import { useProven } from './useGestures.ts';

const HZ = 25;
const SHOWN_S = 20;
const ZERO_S = 3;
/** Under a cover it trembles by less than this, Pa. */
const CALM_PA = 6;
/** What is left under the cover after writing, Pa. */
const LEFT_PA = 2;
const tubeWords = {
  whole: 'It holds the breath: no leak, nothing in it.',
  weak: 'Little of the breath came through. Breathe harder; if it stays so, a hose leaks or is kinked.',
  blocked: 'Nothing came through: the tube is blocked, its hose is off, or the two hoses are swapped.',
} as const;

/** The tube: its zero, whether it is whole, and its scale. */
export default function AirspeedStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  if (isRotorcraft(airframe) || settingOf(values, 'pitot.fitted') !== true)
    return (
      <>
        <Lead begins={false}>
          {isRotorcraft(airframe)
            ? 'A craft that hovers flies by its tilt, not by its airspeed: it needs no tube.'
            : 'Without a tube the board works airspeed out from speed over ground and the wind that it found in turns. That does for most; a tube is worth it in strong wind and for heavy wings.'}
        </Lead>
        {!isRotorcraft(airframe) && (
          <p className="mt-3 flex items-center gap-3">
            <span className="text-soft">An airspeed sensor is fitted</span>
            <SettingField name="pitot.fitted" />
          </p>
        )}
      </>
    );
  return <Tube />;
}

function Tube() {
  const units = useApp((s) => s.ui.units);
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const dispatch = useAppDispatch();
  const { ring, fault } = useStreamRing('airspeed', HZ, 1, SHOWN_S);
  const proof = useProven('tube');
  const zero = settingOf(base, 'pitot.zero') ?? 0;
  const peak = useRef(0);
  const now = useSampled(() => {
    const last = ring.newest(0, ZERO_S * HZ);
    const half = ring.newest(0, Math.round(HZ / 2));
    if (half.length > 0) peak.current = Math.max(peak.current, mean(half));
    return last.length < ZERO_S * HZ ? null : { mean: mean(last), spread: spread(last) };
  }, 200);
  const calm = now !== null && now.spread < CALM_PA;
  const waits = 'pitot.zero' in edits;
  const zeroed = now !== null && Math.abs(now.mean - zero) < LEFT_PA;
  /** It was seen to say nought under its cover, as the board is set. */
  const [covered, setCovered] = useState(false);
  const breathed = peak.current - zero;
  const seen = proof?.seen.kind === 'tube' ? proof.seen : null;
  return (
    <>
      <Lead />
      <div className="mt-2">
        {fault ? (
          <p role="alert" className="text-red">
            {fault}
          </p>
        ) : (
          now === null && (
            <p role="status" className="text-soft">
              Nothing comes from the sensor yet. Where the bus outside the board has power from the battery
              only, plug that in.
            </p>
          )
        )}
        <LivePlot
          label="Pressure of the tube over the last twenty seconds"
          lines={[{ name: 'pressure of the tube', token: '--lake' }]}
          unit="Pa"
          heightPx={150}
          read={() => {
            const all = ring.newest(0, SHOWN_S * HZ);
            return [Array.from(all, (_, i) => (i - all.length + 1) / HZ), Array.from(all)];
          }}
        />
      </div>
      <section className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
        <div className="min-w-[240px] flex-1">
          <h2 className="font-semibold">Covered</h2>
          <p className="mt-1">
            <Figure value={now ? now.mean.toFixed(1) : '–'} unit="Pa" words="it says now" />
            <Figure value={zero.toFixed(1)} unit="Pa" words="is taken off" />
            <Figure
              value={formatQuantity(airspeedOfPressure((now?.mean ?? zero) - zero), 'm/s', units, 1)}
              words="is what that makes"
            />
          </p>
          <p className="text-soft" role="status">
            {waits
              ? 'In the tray. Write it to the board, the cover still on, and press again.'
              : covered
                ? 'Seen: under its cover it says nought.'
                : 'Put the cover on, out of the wind.'}
          </p>
        </div>
        <Button
          kind={covered || seen ? 'plain' : 'go'}
          disabled={!calm || waits}
          onClick={() => {
            if (!now) return;
            peak.current = zero;
            if (zeroed) setCovered(true);
            else dispatch(staged({ 'pitot.zero': Math.round(now.mean * 10) / 10 }));
          }}
        >
          The cover is on
        </Button>
      </section>
      <section className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
        <div className="min-w-[240px] flex-1">
          <h2 className="font-semibold">Breathed into</h2>
          {seen ? (
            <p className="mt-1">
              <Figure value={seen.peakPa.toFixed(0)} unit="Pa" words="at the most" />
              <span className="text-forest">{tubeWords[seen.verdict]}</span>
            </p>
          ) : (
            <p className="text-soft" role="status">
              {!covered
                ? 'After the cover.'
                : breathed > 20
                  ? `${breathed.toFixed(0)} Pa at the most. ${tubeWords[tubeSeen(zero, peak.current).verdict]}`
                  : 'Take the cover off and breathe into the tube, gently at first.'}
            </p>
          )}
        </div>
        <Button
          kind={seen ? 'plain' : 'go'}
          disabled={!covered || waits}
          onClick={() => {
            recordProof({ kind: 'tube', ...tubeSeen(zero, peak.current) });
            peak.current = zero;
          }}
        >
          I breathed into it
        </Button>
      </section>
      <Scale />
    </>
  );
}

/** The tube's scale, from circles that were flown. */
function Scale() {
  const units = useApp((s) => s.ui.units);
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const { flown, said, openLog } = useFlown();
  const dispatch = useAppDispatch();
  const proof = useProven('tube-scale');
  const [fit, setFit] = useState<ReturnType<typeof airspeedFromCircles> | null>(null);
  const scale = settingOf(base, 'pitot.scale') ?? 1;
  const found = fit && !('refused' in fit) ? fit : null;
  const take = () => {
    if (!found) return;
    const to = Math.round(scale * found.factor * 100) / 100;
    if (Math.abs(to - scale) > 0.005) dispatch(staged({ 'pitot.scale': to }));
    else recordProof({ kind: 'tube-scale', factor: found.factor, sigma: found.sigma });
    setFit(null);
  };
  return (
    <section className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
      <div className="min-w-[240px] flex-1">
        <h2 className="font-semibold">Its scale, from circles</h2>
        {found ? (
          <p className="mt-1">
            <Figure value={(100 * (found.factor - 1)).toFixed(1)} unit="%" words="it says too little" />
            <Figure
              value={formatQuantity(Math.hypot(found.windNorth, found.windEast), 'm/s', units, 1)}
              words="of wind, found with it"
            />
            <span className="text-soft">within {(200 * found.sigma).toFixed(1)} %, two sigma</span>
          </p>
        ) : (
          <p className="text-soft" role="status">
            {fit && 'refused' in fit
              ? fit.refused
              : 'pitot.scale' in edits
                ? 'In the tray. Write it, and fly again to see.'
                : proof?.seen.kind === 'tube-scale'
                  ? `Seen: right within ${(100 * Math.abs(proof.seen.factor - 1)).toFixed(1)} %.`
                  : flown
                    ? `${flown.name}: ground speed and airspeed have to fit one wind.`
                    : 'Rehearse a flight that circles home, under Rehearse: ground speed and airspeed together give scale and wind.'}
          </p>
        )}
      </div>
      {found ? (
        <Button kind="go" onClick={take}>
          {Math.abs(found.factor - 1) > 0.005 ? 'Put into the tray' : 'Keep it as seen'}
        </Button>
      ) : (
        <Button
          disabled={!flown}
          onClick={() => flown && setFit(airspeedFromCircles(circleSamplesOf(flown.moments)))}
        >
          Take this flight
        </Button>
      )}
      <OpenLog onFile={(f) => void openLog(f)} said={said} />
    </section>
  );
}
