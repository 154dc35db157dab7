import { useEffect, useState } from 'react';
import { REHEARSAL_START_MS, trackToGpx } from '#core/formats/gpx.ts';
import { verdictWords } from '#core/formats/rehearsalResult.ts';
import { type ModeId, modeNames } from '#core/modes/modes.ts';
import { formatClock, formatDuration, formatQuantity } from '#core/units/units.ts';
import { saveText, slug } from '../../files.ts';
import { cancelRehearsal, rehearse } from '../../session.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectChanges, selectFlightPrint } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../../ui/Lead.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { FlightStrip } from './FlightStrip.tsx';
import { IslandMap } from './IslandMap.tsx';

/** One flight of the drafted settings: out, the radio silent, home or not. */
export default function OneFlightStation() {
  const { scenario, run, result, flownWith } = useApp((s) => s.rehearsal);
  const name = useApp((s) => s.craft.file?.name ?? 'craft');
  const known = useApp((s) => s.craft.file?.bench !== undefined);
  const pending = useApp(selectChanges).length;
  const print = useApp(selectFlightPrint);
  const dispatch = useAppDispatch();
  const [cursor, setCursor] = useState(0);
  useEffect(() => setCursor(result ? result.track.length - 1 : 0), [result]);
  const lostAt = scenario.events.find((e) => e.do === 'link-lost')?.atS ?? 180;
  const flying = run.kind === 'flying';
  return (
    <div className="flex h-full min-h-[520px] flex-col">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead title="One flight">
            The settings {pending > 0 ? `with the ${pending} waiting edits ` : ''}fly in the bench, faster
            than time. The radio goes silent {formatClock(lostAt)} after launch.
          </Lead>
        </div>
        {flying ? (
          <Button onClick={cancelRehearsal}>Stop the flight</Button>
        ) : (
          <Button kind="go" onClick={() => void rehearse()}>
            {result ? 'Fly again' : 'Fly it'}
          </Button>
        )}
      </div>
      <ScenarioBar />
      <div className="relative -mx-6 mt-2 min-h-0 flex-1">
        <IslandMap
          scenario={scenario}
          result={result}
          cursor={cursor}
          onOutbound={(bearingDeg, distanceM) =>
            dispatch(scenarioChanged({ outbound: { ...scenario.outbound, bearingDeg, distanceM } }))
          }
        />
        {flying && (
          <div
            role="status"
            className="absolute top-3 left-6 rounded-[4px] border border-line bg-sheet px-3 py-1.5 text-lake shadow-sm"
          >
            In the air for {formatClock(run.seconds)}
            {run.rate > 0 && <span className="num"> · {run.rate.toFixed(0)} × real time</span>}
          </div>
        )}
        {result && <Moment index={cursor} />}
      </div>
      {result && <FlightStrip result={result} cursor={cursor} onCursor={setCursor} />}
      {run.kind === 'failed' && (
        <p role="alert" className="mt-3 rounded-[4px] bg-red-wash px-3.5 py-2 text-red">
          {run.why}
        </p>
      )}
      {run.kind === 'cancelled' && (
        <p role="status" className="mt-3 text-soft">
          Stopped after {formatDuration(run.seconds)} of flight. Nothing was changed
          {result ? '; the flight before is shown' : ''}.
        </p>
      )}
      {result && (
        <div
          className={`mt-1 mb-2 flex items-center gap-5 rounded-[4px] border border-line border-l-4 bg-paper px-3.5 py-2.5 ${result.verdict === 'home' ? 'border-l-forest' : 'border-l-red'}`}
          role="status"
        >
          <b
            className={`w-28 shrink-0 font-semibold text-[18px] leading-[22px] ${result.verdict === 'home' ? 'text-forest' : 'text-red'}`}
          >
            {verdictWords[result.verdict]}
          </b>
          <span className="flex-1 text-soft">
            {result.reason} {formatQuantity(result.usedWh, 'wh', 'metric', 1)} used.
            {!known &&
              ' The craft file does not say how the craft is built, so every output was taken to move as its settings say.'}
            {flownWith !== print && (
              <b className="block font-medium text-red">
                Settings, craft or weather have changed since. Fly again.
              </b>
            )}
          </span>
          <Button
            onClick={() =>
              saveText(
                `${slug(name)}-rehearsed.gpx`,
                'application/gpx+xml',
                trackToGpx(`${name}, rehearsed`, result.track, REHEARSAL_START_MS),
              )
            }
          >
            Save track
          </Button>
        </div>
      )}
      {!result && !flying && (
        <p className="mt-3 max-w-[660px] text-soft">
          Drag the blue point to where the craft should be when the link dies, set the wind, and fly. The
          verdict says whether it comes home, and why.
        </p>
      )}
    </div>
  );
}

/** Wind, distance and time of the loss, in one line. */
function ScenarioBar() {
  const scenario = useApp((s) => s.rehearsal.scenario);
  const dispatch = useAppDispatch();
  const { wind, outbound } = scenario;
  const lostAt = scenario.events.find((e) => e.do === 'link-lost')?.atS ?? 180;
  const put = (change: Parameters<typeof scenarioChanged>[0]) => dispatch(scenarioChanged(change));
  return (
    <div className="mt-2 flex flex-wrap items-baseline gap-x-5 gap-y-1 text-soft">
      <span>
        Wind{' '}
        <QuantityField
          label="Wind at 10 m"
          unit="m/s"
          value={wind.speedMps}
          min={0}
          max={40}
          step={1}
          onChange={(speedMps) => put({ wind: { ...wind, speedMps } })}
        />
      </span>
      <span>
        from{' '}
        <QuantityField
          label="Wind from"
          unit="deg"
          value={wind.fromDeg}
          min={0}
          max={360}
          step={5}
          onChange={(fromDeg) => put({ wind: { ...wind, fromDeg } })}
        />
      </span>
      <span>
        gusts{' '}
        <QuantityField
          label="Gusts"
          unit="m/s"
          value={wind.gustMps}
          min={0}
          max={10}
          step={0.5}
          onChange={(gustMps) => put({ wind: { ...wind, gustMps } })}
        />
      </span>
      <span>
        out{' '}
        <QuantityField
          label="Outbound distance"
          unit="m"
          value={outbound.distanceM}
          min={300}
          max={9000}
          step={50}
          onChange={(distanceM) => put({ outbound: { ...outbound, distanceM } })}
        />
      </span>
      <span>
        at{' '}
        <QuantityField
          label="Outbound height"
          unit="m"
          value={outbound.heightM}
          min={20}
          max={1000}
          step={10}
          onChange={(heightM) => put({ outbound: { ...outbound, heightM } })}
        />
      </span>
      <span>
        link lost after{' '}
        <QuantityField
          label="Link lost after"
          unit="s"
          value={lostAt}
          min={10}
          max={1400}
          step={10}
          onChange={(atS) => put({ events: [{ atS, do: 'link-lost' }] })}
        />
      </span>
      <span>
        seed{' '}
        <QuantityField
          label="Seed"
          unit="count"
          value={scenario.seed}
          min={0}
          max={9999}
          step={1}
          onChange={(seed) => put({ seed: Math.round(seed) })}
        />
      </span>
    </div>
  );
}

/** What the craft did at the moment looked at. */
function Moment({ index }: { readonly index: number }) {
  const point = useApp((s) => s.rehearsal.result?.track[index]);
  const units = useApp((s) => s.ui.units);
  if (!point) return null;
  return (
    <dl className="absolute bottom-3 left-6 grid grid-cols-[auto_auto] gap-x-3 rounded-[4px] border border-line bg-sheet px-3 py-1.5 text-[13px] shadow-sm [&>dd]:text-right [&>dt]:text-soft">
      <dt>{formatClock(point.atS)}</dt>
      <dd>{modeNames[point.mode as ModeId] ?? point.mode}</dd>
      <dt>through the air</dt>
      <dd className="num">{formatQuantity(point.airspeedMps, 'm/s', units, 1)}</dd>
      <dt>over ground</dt>
      <dd className="num">{formatQuantity(point.groundspeedMps, 'm/s', units, 1)}</dd>
    </dl>
  );
}
