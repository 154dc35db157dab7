import { useEffect, useState } from 'react';
import { DEG } from '#core/math/scalar.ts';
import { printOf, staleWords } from '#core/proofs/proofs.ts';
import { limitNames, limitWords } from '#core/reach/place.ts';
import { REACH_CELLS_M, REACH_M } from '#core/reach/reachMap.ts';
import { settingOf } from '#core/settings/typed.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { agrees, flyChecks, PAIRS, stopChecks } from '../../reachChecks.ts';
import { reachChanged } from '../../store/reachSlice.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectPlan, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Named } from '../../ui/Named.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { ReachChart } from './reach/ReachChart.tsx';
import { ReachSlice } from './reach/ReachSlice.tsx';
import { useMend, useReach, useReachInput, useReachWay } from './reach/useReach.ts';
import { withGusts } from './WindSpeed.tsx';

const USUAL_PLACE = { bearingDeg: 50, distanceM: 4000 };
const FINEST = REACH_CELLS_M[REACH_CELLS_M.length - 1]!;

/** Where it comes home from, as a map; what it fails by beyond; and the way from any place. */
export default function ReachStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const site = useApp((s) => s.site.current)!;
  const own = useApp((s) => s.craft.airframe!.massKg);
  const { batteryShare, reserveShare, heightM, massKg, checks, run } = useApp((s) => s.reach);
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const plan = useApp(selectPlan);
  const noReturn = useApp((s) => s.routes.thought?.way.noReturn ?? null);
  const returns = useApp((s) => settingOf(selectValues(s), 'lost.action') === 'return');
  const kept = useApp((s) => s.reach.proof ?? s.craft.proofs.find((p) => p.id === 'reach'));
  const world = useApp(selectProofWorld)!;
  const asked = useReachInput();
  const about = useApp((s) => s.reach.about);
  const changed = staleWords(kept, world);
  const others = checks.length > 0 && about !== printOf([asked.airframe, asked.circumstances]);
  const stale = changed || (others ? 'charge, reserve, height, mass or wind were changed' : '');
  const { map, done, fault } = useReach(asked, FINEST);
  const chosen = useApp((s) => s.reach.place);
  // Looked at first: beyond the longest piece of the border, once that is known.
  const [first, setFirst] = useState<typeof USUAL_PLACE | null>(null);
  useEffect(() => {
    if (done && map) setFirst((f) => f ?? firstPlace(map.pieces));
  }, [done, map]);
  const place = chosen ?? first ?? USUAL_PLACE;
  const east = place.distanceM * Math.sin(place.bearingDeg * DEG);
  const north = place.distanceM * Math.cos(place.bearingDeg * DEG);
  const way = useReachWay(asked, east, north);
  const mend = useMend(asked, east, north, (way?.place.margin ?? 0) < 0);
  const flying = run.kind === 'flying';
  const right = checks.filter(agrees).length;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
          {!site.terrain.known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
        </div>
        <p className="text-right" role="status" aria-label="Share that it comes home from">
          <span className={`num text-[32px] leading-9 ${done ? '' : 'text-faint'}`}>
            {map ? Math.round(100 * map.share) : '–'}
          </span>
          <span className="text-soft"> %</span>
          <span className="block text-[13px] text-soft leading-4">
            of {formatQuantity(2 * REACH_M, 'm', units, 0)} each way
          </span>
        </p>
      </div>
      {!returns && (
        <Notice>
          When the link is lost it is not set to return home, so it comes home from nowhere by itself. The map
          shows how it would be.{' '}
          <TextButton onClick={() => dispatch(staged({ 'lost.action': 'return' }))}>Let it return</TextButton>
        </Notice>
      )}
      {fault && <Notice>The reach cannot be worked out: {fault}.</Notice>}
      <dl className="mt-2 grid grid-cols-3 gap-x-4 gap-y-2 min-[900px]:grid-cols-6 [&_dt]:text-soft">
        <Named name="Battery there">
          <NumberField
            label="Battery there"
            value={Math.round(100 * batteryShare)}
            symbol="%"
            min={5}
            max={100}
            step={5}
            hint="5 to 100 %"
            onChange={(v) => dispatch(reachChanged({ batteryShare: v / 100 }))}
          />
        </Named>
        <Named name="Has to be left">
          <NumberField
            label="Has to be left"
            value={Math.round(100 * reserveShare)}
            symbol="%"
            min={0}
            max={80}
            step={5}
            hint="0 to 80 %"
            onChange={(v) => dispatch(reachChanged({ reserveShare: v / 100 }))}
          />
        </Named>
        <Named name="Height there">
          <QuantityField
            label="Height there"
            unit="m"
            value={heightM}
            min={20}
            max={1500}
            step={10}
            onChange={(v) => dispatch(reachChanged({ heightM: v }))}
          />
        </Named>
        <Named name="Mass">
          <QuantityField
            label="Mass"
            unit="kg"
            value={massKg ?? own}
            min={0.05}
            max={50}
            step={0.05}
            onChange={(v) => dispatch(reachChanged({ massKg: v === own ? null : v }))}
          />
          {massKg !== null && (
            <TextButton
              tone="soft"
              className="ml-1 text-[13px]"
              onClick={() => dispatch(reachChanged({ massKg: null }))}
            >
              its own
            </TextButton>
          )}
        </Named>
        <Named name="Return height">
          <SettingField name="return.height" />
        </Named>
        <Named name="Return speed">
          <SettingField name="return.speed" />
        </Named>
      </dl>
      <div className="mt-2 overflow-x-auto">
        <ReachChart
          site={site}
          map={map}
          bearingDeg={place.bearingDeg}
          distanceM={place.distanceM}
          checks={stale ? [] : checks}
          wind={wind}
          plan={plan}
          noReturn={noReturn}
          onPlace={(bearingDeg, distanceM) => dispatch(reachChanged({ place: { bearingDeg, distanceM } }))}
          onWind={(fromDeg, speedMps) =>
            dispatch(
              scenarioChanged({
                wind: { speedMps, fromDeg, gustMps: withGusts(speedMps) },
              }),
            )
          }
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-1">
        {flying ? (
          <Button onClick={stopChecks}>Stop</Button>
        ) : (
          <Button
            kind="plain"
            disabled={!done || !map}
            onClick={() => map && void flyChecks(asked, map.share)}
          >
            Fly {PAIRS} pairs along the line
          </Button>
        )}
        <p role="status" className="text-soft">
          {checks.length > 0 || flying ? (
            <>
              The map was right in <b className="num font-medium text-ink">{right}</b> of{' '}
              <span className="num">{checks.length}</span> flights
              {flying && `, ${run.total - checks.length} still to fly`}.{' '}
              <span aria-hidden="true">
                <span className="text-forest">◆</span> home <span className="text-red">○</span> not
              </span>
              {!flying && stale && <b className="font-medium text-red"> Since then {stale}.</b>}
            </>
          ) : kept?.seen.kind === 'reach' ? (
            <>
              Last flown: right in {kept.seen.right} of {kept.seen.flown}.
              {stale && <b className="font-medium text-red"> Since then {stale}.</b>}
            </>
          ) : (
            'Each pair is flown in the bench from just inside and from just outside.'
          )}
        </p>
      </div>
      {run.kind === 'failed' && <Notice>{run.why}</Notice>}
      {checks
        .filter((c) => !stale && !agrees(c))
        .map((c) => (
          <p key={`${c.eastM} ${c.northM}`} className="text-[14px] text-soft">
            Against the map, {formatQuantity(Math.hypot(c.eastM, c.northM), 'm', units, 0)} out on bearing{' '}
            {Math.round((Math.atan2(c.eastM, c.northM) / DEG + 360) % 360)}°: {c.reason}
          </p>
        ))}
      {way && (
        <section aria-label="From there" className="mt-3 border-line border-t pt-2">
          <p>
            From {formatQuantity(place.distanceM, 'm', units, 0)} out on bearing {place.bearingDeg}°{' '}
            {way.place.margin >= 0 ? (
              <b className="font-semibold text-forest">it comes home</b>
            ) : (
              <b className="font-semibold text-red">it does not come home</b>
            )}
            {way.place.margin >= 0 ? (
              <>
                {' '}
                in {formatDuration(way.place.seconds)} with {Math.round(100 * way.place.leftShare)} % left.
                Nearest to failing: {limitNames[way.place.limit].name}, {limitWords(way.place, units)}.
              </>
            ) : (
              <>
                : {limitNames[way.place.limit].name}, {limitWords(way.place, units)}.{' '}
                {mend && (
                  <Button kind="plain" onClick={() => dispatch(staged(mend.edits))}>
                    {mend.label}
                  </Button>
                )}
                {mend === null && 'No height and no speed of the return changes that.'}
              </>
            )}
          </p>
          <ReachSlice way={way} reserveShare={reserveShare} />
        </section>
      )}
    </>
  );
}

/** The middle of the border's longest piece, a little inside of what it can be asked of. */
function firstPlace(
  pieces:
    | readonly {
        readonly beyond: { readonly eastM: number; readonly northM: number };
        readonly points: readonly unknown[];
      }[]
    | undefined,
) {
  const longest = pieces?.reduce((a, b) => (b.points.length > a.points.length ? b : a), pieces[0]!);
  if (!longest) return null;
  const { eastM, northM } = longest.beyond;
  return {
    bearingDeg: Math.round((Math.atan2(eastM, northM) / DEG + 360) % 360),
    distanceM: Math.min(8400, Math.max(200, Math.round(Math.hypot(eastM, northM) / 50) * 50)),
  };
}
