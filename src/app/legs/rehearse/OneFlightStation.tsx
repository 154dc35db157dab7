import { lazy, Suspense, useEffect, useState } from 'react';
import { standardAir } from '#core/flight/atmosphere.ts';
import { REHEARSAL_START_MS, trackToGpx } from '#core/formats/gpx.ts';
import { type RehearsalResult, verdictWords } from '#core/formats/rehearsalResult.ts';
import type { Scenario } from '#core/formats/scenario.ts';
import { modeName } from '#core/modes/modes.ts';
import { staleWords } from '#core/proofs/proofs.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatClock, formatDuration, formatQuantity } from '#core/units/units.ts';
import { saveText, slug } from '../../files.ts';
import { cancelRehearsal, rehearse } from '../../session.ts';
import { flightKept, flightLetGo, type KeptFlight, scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectChanges, selectProofWorld } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Decisions } from '../../ui/Decisions.tsx';
import { DrawingTabs } from '../../ui/DrawingTabs.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Table } from '../../ui/Table.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { EventLine } from './EventLine.tsx';
import { FlightMap } from './FlightMap.tsx';
import { FlightStrip } from './FlightStrip.tsx';
import { LastFlown } from './LastFlown.tsx';
import { Replay } from './Replay.tsx';
import { VerdictBar } from './VerdictBar.tsx';

const InTheAir = lazy(() => import('../../drawing/InTheAir.tsx'));

/** Before the first flight the line of time shows this much. */
const SHORTEST_S = 300;

/** Both lines of time show as much, so that what happens stands right above what came of it. */
function secondsShown(scenario: Scenario, result: RehearsalResult | null, kept: readonly KeptFlight[]) {
  const events = Math.max(0, ...scenario.events.map((e) => e.atS));
  if (!result) return Math.min(scenario.limitS, Math.max(SHORTEST_S, 1.25 * events));
  return Math.max(1, result.seconds, 1.05 * events, ...kept.map((k) => k.result.seconds));
}

/** One flight of the drafted settings: out, the radio silent, home or not. */
export default function OneFlightStation() {
  const { scenario, run, result, kept } = useApp((s) => s.rehearsal);
  const airframe = useApp((s) => s.craft.airframe)!;
  const site = useApp((s) => s.site.current)!;
  const [inAir, setInAir] = useState(false);
  const name = useApp((s) => s.craft.file?.name ?? 'craft');
  const known = useApp((s) => s.craft.file?.bench !== undefined);
  const pending = useApp(selectChanges).length;
  const proof = useApp((s) => s.craft.proofs.find((p) => p.id === 'flight'));
  const world = useApp(selectProofWorld)!;
  const dispatch = useAppDispatch();
  const [cursor, setCursor] = useState(0);
  useEffect(() => setCursor(result ? result.track.length - 1 : 0), [result]);
  const flying = run.kind === 'flying';
  const spanS = secondsShown(scenario, result, kept);
  return (
    <div className="flex h-full min-h-[760px] flex-col">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead>
            The settings {pending > 0 ? `with the ${pending} waiting edits ` : ''}fly at {site.name} in the
            bench, faster than time. What happens on the way stands on the line of time.
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
      {result && (
        <VerdictBar result={result} built={known} stale={staleWords(proof, world)}>
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
          <Button onClick={() => dispatch(flightKept(keptName(name, scenario, kept.length)))}>
            Keep beside
          </Button>
        </VerdictBar>
      )}
      {!result && proof?.seen.kind === 'flight' && (
        <LastFlown at={proof.at} stale={staleWords(proof, world)}>
          {verdictWords[proof.seen.verdict].toLowerCase()}
          {proof.seen.luck && ' by luck'}
        </LastFlown>
      )}
      {!site.terrain.known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
      <div
        className={`-mx-6 mt-1 grid min-h-[400px] flex-1 ${result ? 'grid-cols-[minmax(0,1fr)_228px]' : ''} grid-rows-[minmax(0,1fr)]`}
      >
        <div className="relative min-h-0 overflow-hidden">
          {result && inAir ? (
            <Suspense fallback={<p className="p-6 text-soft">Opening the view…</p>}>
              <InTheAir site={site} airframe={airframe} track={result.track} cursor={cursor} />
            </Suspense>
          ) : (
            <FlightMap
              site={site}
              scenario={scenario}
              result={result}
              kept={kept}
              cursor={cursor}
              onOutbound={(bearingDeg, distanceM) =>
                dispatch(scenarioChanged({ outbound: { ...scenario.outbound, bearingDeg, distanceM } }))
              }
              onWind={(fromDeg, speedMps) =>
                dispatch(scenarioChanged({ wind: { ...scenario.wind, fromDeg, speedMps } }))
              }
            />
          )}
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
          {result && !flying && (
            <div className="absolute top-3 left-6 flex items-center gap-2">
              <Replay track={result.track} cursor={cursor} onCursor={setCursor} />
              <DrawingTabs
                label="View"
                tabs={['map', 'in the air']}
                value={inAir ? 'in the air' : 'map'}
                onChange={(view) => setInAir(view === 'in the air')}
              />
            </div>
          )}
        </div>
        {result && (
          <Decisions
            decisions={result.decisions}
            nowS={result.track[cursor]?.atS ?? 0}
            onGo={(atS) => {
              const at = result.track.findIndex((p) => p.atS >= atS);
              setCursor(at < 0 ? result.track.length - 1 : at);
            }}
          />
        )}
      </div>
      {result && (
        <FlightStrip result={result} kept={kept} cursor={cursor} spanS={spanS} onCursor={setCursor} />
      )}
      <EventLine
        events={scenario.events}
        limitS={scenario.limitS}
        spanS={spanS}
        onChange={(events) => dispatch(scenarioChanged({ events }))}
      />
      <ScenarioBar />
      {run.kind === 'failed' && <Notice className="mt-3">{run.why}</Notice>}
      {run.kind === 'cancelled' && (
        <p role="status" className="mt-3 text-soft">
          Stopped after {formatDuration(run.seconds)} of flight. Nothing was changed
          {result ? '; the flight before is shown' : ''}.
        </p>
      )}
      {kept.length > 0 && <Beside result={result} />}
      {!result && !flying && (
        <p className="mt-3 max-w-[660px] text-soft">
          Drag the blue point to where the craft should be when the link dies, set the wind, and fly. The
          verdict says whether it comes home, and why.
        </p>
      )}
    </div>
  );
}

/** What a kept flight is called: what was different about it. */
const keptName = (craft: string, scenario: Scenario, count: number) =>
  `${craft}, ${scenario.wind.speedMps} m/s from ${scenario.wind.fromDeg}°${count > 0 ? '' : ', the first'}`;

/** Flights put aside, compared line by line. */
function Beside({ result }: { readonly result: RehearsalResult | null }) {
  const kept = useApp((s) => s.rehearsal.kept);
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  const row = (r: RehearsalResult) => (
    <>
      <td className={r.verdict === 'home' ? 'text-forest' : 'text-red'}>{verdictWords[r.verdict]}</td>
      <td className="num text-right">{formatClock(r.seconds)}</td>
      <td className="num text-right">{formatQuantity(r.usedWh, 'wh', 'metric', 1)}</td>
      <td className="num text-right">{formatQuantity(r.closestM, 'm', units, 0)}</td>
    </>
  );
  return (
    <Table className="mb-2">
      <caption className="label py-1 text-left">Flights side by side</caption>
      <thead>
        <tr>
          <th>flight</th>
          <th>verdict</th>
          <th className="!text-right">took</th>
          <th className="!text-right">used</th>
          <th className="!text-right">nearest to home</th>
          <th />
        </tr>
      </thead>
      <tbody>
        {kept.map((k) => (
          <tr key={k.id}>
            <td>
              <span className="num mr-1 rounded-full border border-line px-1">{k.id}</span> {k.name}
            </td>
            {row(k.result)}
            <td className="text-right">
              <TextButton aria-label={`Let flight ${k.id} go`} onClick={() => dispatch(flightLetGo(k.id))}>
                let go
              </TextButton>
            </td>
          </tr>
        ))}
        {result && (
          <tr>
            <td>the one shown</td>
            {row(result)}
            <td />
          </tr>
        )}
      </tbody>
    </Table>
  );
}

/** Wind, distance and time of the loss, in one line. */
function ScenarioBar() {
  const scenario = useApp((s) => s.rehearsal.scenario);
  const dispatch = useAppDispatch();
  const { wind, outbound } = scenario;
  const site = useApp((s) => s.site.current)!;
  const air = scenario.air ?? site.air ?? standardAir(site.home.heightM);
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
          onChange={(atS) =>
            put({
              events: scenario.events.some((e) => e.do === 'link-lost')
                ? scenario.events.map((e) => (e.do === 'link-lost' ? { ...e, atS } : e))
                : [...scenario.events, { atS, do: 'link-lost' }],
            })
          }
        />
      </span>
      <span>
        air{' '}
        <QuantityField
          label="Air temperature at home"
          unit="degc"
          value={air.temperatureC}
          min={-40}
          max={50}
          step={1}
          onChange={(temperatureC) => put({ air: { ...air, temperatureC } })}
        />{' '}
        <QuantityField
          label="Air pressure at home"
          unit="hpa"
          value={air.pressureHpa}
          min={870}
          max={1085}
          step={1}
          onChange={(pressureHpa) => put({ air: { ...air, pressureHpa } })}
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
      <dd>{modeName(point.mode)}</dd>
      <dt>through the air</dt>
      <dd className="num">{formatQuantity(point.airspeedMps, 'm/s', units, 1)}</dd>
      <dt>over ground</dt>
      <dd className="num">{formatQuantity(point.groundspeedMps, 'm/s', units, 1)}</dd>
    </dl>
  );
}
