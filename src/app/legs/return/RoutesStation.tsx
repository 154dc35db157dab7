import { useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import type { Place } from '#core/navigation/earth.ts';
import { type FlightPlan, MOST_CORNERS, MOST_POINTS } from '#core/plan/plan.ts';
import { settingOf } from '#core/settings/typed.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { routePrint } from '../../routeFlights.ts';
import { linkRangeSaid, planChanged } from '../../store/craftSlice.ts';
import { reachChanged } from '../../store/reachSlice.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectPlan, selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Lead } from '../Lead.tsx';
import { AreaPart } from './routes/AreaPart.tsx';
import { BoardPart } from './routes/BoardPart.tsx';
import { CheckPart } from './routes/CheckPart.tsx';
import {
  beyondLast,
  moved,
  withCornerAt,
  withoutPoint,
  withPoint,
  withPointChanged,
} from './routes/edits.ts';
import { FencePart } from './routes/FencePart.tsx';
import { FilePart } from './routes/FilePart.tsx';
import { PointPart } from './routes/PointPart.tsx';
import { type Picked, RouteMap, type Tool } from './routes/RouteMap.tsx';
import { RouteProfile } from './routes/RouteProfile.tsx';
import { withGusts } from './WindSpeed.tsx';

const SQUARE_M = 300;
const SQUARE_AWAY_M = 900;
const NO_TRACK: readonly (readonly [number, number])[] = [];

/** Routes and fences, drawn on the site, flown in thought and in the bench, written to the board. */
export default function RoutesStation() {
  const dispatch = useAppDispatch();
  const units = useApp((s) => s.ui.units);
  const site = useApp((s) => s.site.current)!;
  const rotors = useApp((s) => isRotorcraft(s.craft.airframe!));
  const values = useApp(selectValues);
  const plan = useApp(selectPlan);
  const thought = useApp((s) => s.routes.thought);
  const flown = useApp((s) => s.routes.flown);
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const reserveShare = useApp((s) => s.reach.reserveShare);
  const linkM = useApp((s) => s.craft.file!.linkM ?? 0);
  const [tool, setTool] = useState<Tool>('look');
  const [picked, setPicked] = useState<Picked | null>(null);
  const [corners, setCorners] = useState<readonly Place[]>([]);
  /** Counts what came as a whole, which is then shown as a whole. */
  const [fitted, setFitted] = useState(0);
  const change = (next: FlightPlan) => dispatch(planChanged(next));
  const drag = (next: FlightPlan) => dispatch(planChanged(next, true));
  const way = thought && thought.way.moments.length > 1 ? thought.way : null;
  const now = useApp(routePrint);
  // What was flown of another route than this is not drawn over it.
  const track = flown?.about === now ? flown.track : NO_TRACK;
  const radiusM = rotors ? 0 : (settingOf(values, 'loiter.radius') ?? 60);
  const usualMps = settingOf(values, 'nav.speed') ?? 10;
  const full = plan.points.length >= MOST_POINTS;
  const atPoint = picked?.kind === 'point' && picked.at < plan.points.length ? picked.at : null;
  const atFence = picked?.kind === 'fence' && picked.at < plan.fences.length ? picked.at : null;
  const endArea = () => {
    setCorners([]);
    setTool('look');
  };
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
          {!site.terrain.known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
        </div>
        {way && (
          <p className="text-right" role="status" aria-label="The route as a whole">
            <span className="num text-[32px] leading-9">{formatQuantity(way.lengthM, 'm', units, 0)}</span>
            <span className="block text-[13px] text-soft leading-4">
              in {formatDuration(way.seconds)},{' '}
              {way.stuck
                ? `as far as it gets`
                : `${Math.round(100 * Math.max(0, Number.isFinite(way.leftShare) ? way.leftShare : 0))} % left`}
            </span>
          </p>
        )}
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button
          kind={tool === 'points' ? 'live' : 'plain'}
          aria-pressed={tool === 'points'}
          disabled={full}
          onClick={() => setTool(tool === 'points' ? 'look' : 'points')}
        >
          {tool === 'points' ? 'Points are laid: end' : 'Lay points on the map'}
        </Button>
        <Button
          disabled={full}
          onClick={() => {
            change(withPoint(plan, beyondLast(plan, site.home)));
            setPicked({ kind: 'point', at: plan.points.length });
          }}
        >
          One more point
        </Button>
        <Button
          kind={tool === 'area' ? 'live' : 'plain'}
          aria-pressed={tool === 'area'}
          onClick={() => (tool === 'area' ? endArea() : setTool('area'))}
        >
          Draw an area
        </Button>
        {full && <span className="text-soft">A board keeps {MOST_POINTS} points.</span>}
        <span className="flex-1" />
        <FilePart
          plan={plan}
          site={site}
          onChange={(next) => {
            change(next);
            setPicked(null);
            setFitted((n) => n + 1);
          }}
        />
      </div>
      <div className="mt-2 overflow-x-auto">
        <RouteMap
          key={fitted}
          site={site}
          plan={plan}
          way={way}
          problems={thought?.problems ?? []}
          track={track}
          picked={picked}
          tool={tool}
          corners={corners}
          radiusM={radiusM || 8}
          wind={wind}
          onWind={(fromDeg, speedMps) =>
            dispatch(scenarioChanged({ wind: { speedMps, fromDeg, gustMps: withGusts(speedMps) } }))
          }
          onPick={setPicked}
          onPlace={(place) => {
            if (tool === 'area') {
              if (corners.length < MOST_CORNERS) setCorners([...corners, place]);
              return;
            }
            change(withPoint(plan, place));
            setPicked({ kind: 'point', at: plan.points.length });
            if (plan.points.length + 1 >= MOST_POINTS) setTool('look');
          }}
          onMovePoint={(at, { lat, lon }) => drag(withPointChanged(plan, at, { lat, lon }))}
          onMoveCorner={(at, corner, place) => drag(withCornerAt(plan, at, corner, place))}
          onMoveDrawn={(corner, place) => setCorners(corners.map((c, i) => (i === corner ? place : c)))}
          onRemovePoint={(at) => {
            change(withoutPoint(plan, at));
            setPicked(
              plan.points.length > 1 ? { kind: 'point', at: Math.min(at, plan.points.length - 2) } : null,
            );
          }}
        />
      </div>
      {/* Below the map, which is not to move while its corners are clicked. */}
      {tool === 'area' && (
        <AreaPart
          corners={corners}
          plan={plan}
          site={site}
          radiusM={radiusM}
          speedMps={usualMps}
          onSquare={() =>
            setCorners([
              moved(site.home, SQUARE_AWAY_M - SQUARE_M, -SQUARE_M),
              moved(site.home, SQUARE_AWAY_M - SQUARE_M, SQUARE_M),
              moved(site.home, SQUARE_AWAY_M + SQUARE_M, SQUARE_M),
              moved(site.home, SQUARE_AWAY_M + SQUARE_M, -SQUARE_M),
            ])
          }
          onBack={() => setCorners(corners.slice(0, -1))}
          onEnd={endArea}
          onChange={(next) => {
            change(next);
            if (next.points !== plan.points) setFitted((n) => n + 1);
            setPicked(
              next.points === plan.points ? { kind: 'fence', at: next.fences.length - 1, corner: 0 } : null,
            );
          }}
        />
      )}
      {plan.points.length === 0 && plan.fences.length === 0 && tool !== 'area' && (
        <p className="mt-2 text-soft">
          Nothing is drawn yet. Lay points one after the other, draw an area to be surveyed or fenced, or open
          a file.
        </p>
      )}
      {thought?.why && <Notice>The route cannot be worked out: {thought.why}.</Notice>}
      {thought?.problems.map((p) => (
        <Notice key={p.id} tone={p.severity === 'blocks' ? 'red' : 'amber'} className="mt-1">
          <b className="font-semibold">{p.title}.</b> {p.why}
        </Notice>
      ))}
      <PointPart
        plan={plan}
        at={atPoint}
        rotors={rotors}
        usualMps={usualMps}
        onChange={change}
        onPick={(at) => setPicked(at === null ? null : { kind: 'point', at })}
      />
      {way && (
        <>
          <div className="mt-3 overflow-x-auto border-line border-t pt-2">
            <RouteProfile
              way={way}
              reserveShare={reserveShare}
              picked={atPoint}
              onPick={(at) => setPicked({ kind: 'point', at })}
            />
          </div>
          <dl className="mt-1 flex flex-wrap gap-x-8 gap-y-1 [&_dt]:text-soft">
            <div className="flex items-baseline gap-2">
              <dt>The link reaches</dt>
              <dd>
                <QuantityField
                  label="The link reaches"
                  unit="m"
                  value={linkM}
                  min={0}
                  max={200_000}
                  step={500}
                  onChange={(v) => dispatch(linkRangeSaid(v))}
                />
                {linkM === 0 && <span className="text-faint"> not said: only the ground is looked at</span>}
              </dd>
            </div>
            <div className="flex items-baseline gap-2">
              <dt>Has to be left</dt>
              <dd>
                <NumberField
                  label="Has to be left of the battery"
                  value={Math.round(100 * reserveShare)}
                  symbol="%"
                  min={0}
                  max={80}
                  step={5}
                  onChange={(v) => dispatch(reachChanged({ reserveShare: v / 100 }))}
                />
              </dd>
            </div>
          </dl>
        </>
      )}
      <CheckPart />
      <FencePart
        plan={plan}
        site={site}
        at={atFence}
        onChange={change}
        onPick={(at) => setPicked(at === null ? null : { kind: 'fence', at, corner: 0 })}
      />
      <BoardPart />
    </>
  );
}
