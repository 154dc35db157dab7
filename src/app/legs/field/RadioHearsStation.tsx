import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { toldFigures } from '#core/toldBack/figures.ts';
import { fittingRates, toldFit } from '#core/toldBack/fit.ts';
import { type Heard, ToldReader } from '#core/toldBack/frames.ts';
import { frameBytes, ROOM_KEY, rateKey, sensorOf, type ToldId, toldSensors } from '#core/toldBack/sensors.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { SettingField } from '../../ui/SettingField.tsx';
import { TextButton, textLook } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { pathOf } from '../legs.ts';
import { RadioAlarms } from './radio/RadioAlarms.tsx';
import { RoomRibbon } from './radio/RoomRibbon.tsx';

const LIVE_MS = 500;

/** What the transmitter is told of the craft. */
export default function RadioHearsStation() {
  const dispatch = useAppDispatch();
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const linked = useApp((s) => s.board.link === 'ready');
  const tells = useSampled(() => live('tells'), LIVE_MS);
  const fit = useMemo(() => toldFit(values), [values]);
  const [chosen, setChosen] = useState<ToldId>('place');
  const heard = useMemo(() => heardIn(tells?.frames ?? new Uint8Array(0)), [tells]);
  if (!fit.wayBack)
    return (
      <>
        <Lead />
        <p className="mt-4 max-w-[620px]">
          The receiver speaks SBUS or a pulse train: such a wire goes one way, and nothing comes back to the
          transmitter over it. With a receiver that speaks CRSF, on a port whose two wires are both joined,
          the craft tells its place, battery and mode. Until then write down the place from the picture, or
          carry a tracker of its own.
        </p>
      </>
    );
  return (
    <>
      <Lead />
      <div className="mt-4 grid grid-cols-[272px_minmax(0,1fr)] gap-6 max-[1100px]:grid-cols-[236px_minmax(0,1fr)] max-[900px]:grid-cols-1">
        <section aria-label="As it appears at the transmitter">
          <Screen>
            {toldSensors
              .filter((s) => heard.has(s.id) || fit.sensors.find((f) => f.id === s.id)!.hz > 0)
              .map((s) => (
                <button
                  key={s.id}
                  type="button"
                  aria-pressed={s.id === chosen}
                  aria-label={`${s.name}: as it appears`}
                  className={`block w-full rounded-[3px] px-2 py-0.5 text-left ${s.id === chosen ? 'bg-lake-wash' : ''}`}
                  onClick={() => setChosen(s.id)}
                >
                  {toldFigures(s.id, heard.get(s.id) ?? {}, units).map((f) => (
                    <span key={f.name} className="flex justify-between gap-2 text-[13px] leading-[18px]">
                      <span className="text-soft">{f.name}</span>
                      <span className={`num ${heard.has(s.id) ? 'font-semibold text-ink' : 'text-soft'}`}>
                        {f.text}
                      </span>
                    </span>
                  ))}
                </button>
              ))}
          </Screen>
          <p className="mt-2 text-[13px] text-soft">
            {tells && linked ? (
              <>
                Read from the very bytes that the board sends now:{' '}
                <span className="num text-ink">{Math.round(tells.perS)}</span> a second.
              </>
            ) : (
              'Plug the board in: what it sends then stands here, read from the very bytes.'
            )}{' '}
            Names and units are your transmitter’s own; have it look for sensors once, while the craft is on
            and has a fix.
          </p>
        </section>
        <section aria-label="Room on the way back" className="min-w-0">
          <RoomRibbon fit={fit} chosen={chosen} onChoose={setChosen} />
          <p className="mt-2 flex flex-wrap items-baseline gap-x-2 text-[13px]">
            <span className="text-soft">bytes a second that come back</span>
            <SettingField name={ROOM_KEY} />
            {fit.askedPerS > fit.roomPerS && (
              <TextButton onClick={() => dispatch(staged(fittingRates(fit)))}>Make it fit</TextButton>
            )}
          </p>
          <ul className="mt-3 grid grid-cols-2 gap-x-6 gap-y-3">
            {toldSensors.map((s) => {
              const told = fit.sensors.find((f) => f.id === s.id)!;
              return (
                <li
                  key={s.id}
                  className={`border-l-2 pl-2.5 ${s.id === chosen ? 'border-lake' : 'border-line'}`}
                >
                  <p className="flex items-baseline justify-between gap-2">
                    <b className="font-semibold">{s.name}</b>
                    <span className="num text-[13px] text-soft">
                      {told.hz > 0 ? `${formatNumber(told.bytesPerS, 0)} of ${fit.roomPerS}` : 'not told'}
                    </span>
                  </p>
                  <p className="text-[13px] text-soft">{s.answers}</p>
                  <p className="mt-0.5 text-[13px]">
                    <SettingField name={rateKey(s.id)} />{' '}
                    {told.hz > 0 && fit.share < 1 && (
                      <span className="text-amber">
                        comes every {formatQuantity(1 / (told.hz * fit.share), 's', units, 1)} at best
                      </span>
                    )}
                  </p>
                </li>
              );
            })}
          </ul>
          <p className="mt-2 text-[13px] text-faint">
            {sensorOf(chosen).name} travels as a frame of {frameBytes(sensorOf(chosen))} bytes at most.
          </p>
        </section>
      </div>
      <RadioAlarms values={values} units={units} />
      <section aria-label="Where it was last" className="mt-4 border-line border-t pt-3">
        <h2 className="font-semibold">Where it was last</h2>
        <ol className="mt-1 grid max-w-[720px] list-decimal gap-1 pl-5 marker:text-soft">
          <li>
            Leave the transmitter on. It keeps the last place that came; many forget it when they are switched
            off.
          </li>
          <li>Open the page on which it shows latitude and longitude, and photograph it.</li>
          <li>
            Note the height and the course of that moment as well: they tell how far it went on. Type all of
            it at{' '}
            <Link to={pathOf('when-lost')} className={textLook()}>
              When it is lost
            </Link>
            .
          </li>
        </ol>
      </section>
    </>
  );
}

/** The last frame of each kind, read. */
function heardIn(frames: Uint8Array): ReadonlyMap<ToldId, Heard> {
  const heard = new Map<ToldId, Heard>();
  const reader = new ToldReader((h) => heard.set(h.id, h));
  for (const byte of frames) reader.push(byte);
  return heard;
}

/** The screen of a transmitter, held in the hand: a grip to either side, and nothing of any maker’s. */
function Screen({ children }: { readonly children: React.ReactNode }) {
  return (
    <div className="relative rounded-[18px] border-2 border-ink bg-sunk px-3 pt-7 pb-9">
      <span aria-hidden="true" className="-top-4 absolute left-8 h-4 w-1.5 rounded-t bg-ink" />
      <span
        aria-hidden="true"
        className="-translate-x-1/2 absolute top-2.5 left-1/2 h-1 w-10 rounded bg-contour"
      />
      <div className="min-h-[180px] rounded-[4px] border border-line bg-sheet py-1.5">{children}</div>
      <span
        aria-hidden="true"
        className="absolute bottom-3 left-6 size-3.5 rounded-full border-2 border-ink"
      />
      <span
        aria-hidden="true"
        className="absolute right-6 bottom-3 size-3.5 rounded-full border-2 border-ink"
      />
    </div>
  );
}
