import { useMemo, useRef, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { hoverOf } from '#core/airframe/performance.ts';
import { groundAbout } from '#core/flight/terrain.ts';
import { windAtHeight } from '#core/flight/wind.ts';
import { groundLine } from '#core/navigation/groundLine.ts';
import { climbRules, GROUND_MARGIN_M, returnHeights } from '#core/navigation/returnPlan.ts';
import {
  heightOnWay,
  LINE_M,
  nearestAbout,
  nearestOn,
  USUAL_START_M,
  type WayHome,
} from '#core/navigation/wayProfile.ts';
import { groundSpeedAlong } from '#core/navigation/windTriangle.ts';
import { settingOf, settingsOf } from '#core/settings/typed.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { DragHandle } from '../../drawing/DragHandle.tsx';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { QuantityField } from '../../ui/Quantity.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';

const WIDTH = 720;
const HEIGHT = 262;
const LEFT = 96;
const RIGHT = 664;

/** The way home from the side, over the ground, with its settings as handles. */
export default function WayHomeStation() {
  const values = useApp(selectValues);
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const wind = useApp((s) => s.rehearsal.scenario.wind);
  const dispatch = useAppDispatch();
  const svg = useRef<SVGSVGElement>(null);
  const [bearing, setBearing] = useState<number | null>(null);
  const site = useApp((s) => s.site.current)!;
  const { known } = site.terrain;
  const ground = useMemo(() => groundAbout(site.terrain, site.home), [site]);
  const [startM, setStartM] = useState(USUAL_START_M);

  const returnM = settingsOf(values).number('return.height');
  const rule = settingsOf(values).choice('return.climb');
  const arrivalM =
    settingOf(values, 'return.arrival') === 'circle-low'
      ? settingsOf(values).number('return.arrivalHeight')
      : null;
  const speed = settingsOf(values).number('return.speed');
  const climb = settingsOf(values).number('nav.climb');
  const rotors = useApp((s) => isRotorcraft(s.craft.airframe!));
  const topMps = useApp((s) =>
    isRotorcraft(s.craft.airframe!)
      ? hoverOf(s.craft.airframe!).topSpeedMps((settingsOf(values).number('hover.tilt') * Math.PI) / 180)
      : Number.POSITIVE_INFINITY,
  );
  const plan = returnHeights(rule, startM, returnM);
  const circleM = arrivalM ?? plan.heightM;
  const radius = settingsOf(values).number('loiter.radius');
  // The same computation as the finding's, so that the drawing cannot say otherwise.
  const way: WayHome = { rule, startM, returnM, speedMps: speed, climbMps: climb, endsM: 4 * radius };
  const worstDeg = nearestAbout(ground, way).bearingDeg;
  const line = useMemo(() => {
    const { terrain, homeEastM, homeNorthM } = ground;
    return groundLine(terrain, homeEastM, homeNorthM, bearing ?? worstDeg, LINE_M);
  }, [ground, bearing, worstDeg]);
  const home = line.points[0]!.heightM;

  const top = Math.max(
    250,
    Math.ceil((Math.max(returnM, startM, line.highest.heightM - home) + 90) / 50) * 50,
  );
  const y = (aboveHome: number) => HEIGHT - 44 - (aboveHome / top) * (HEIGHT - 84);
  const x = (distance: number) => LEFT + (distance / LINE_M) * (RIGHT - LEFT);
  const toHeight = (py: number) => ((HEIGHT - 44 - py) / (HEIGHT - 84)) * top;

  const heightAt = (d: number) => heightOnWay(way, d);
  // How far from home it is at its height.
  const climbM = plan.climbFirst ? 0 : (Math.max(0, plan.heightM - startM) / climb) * speed;
  const levelFrom = Math.max(0, LINE_M - climbM);
  const low = line.points.filter(
    (p) => p.heightM - home + GROUND_MARGIN_M > heightAt(p.distanceM) && p.distanceM > way.endsM,
  );
  const nearest = nearestOn(line, way, home);
  const worstPoint = low.length > 0 ? nearest : null;
  const deepest = -nearest.clearanceM;

  const put = (key: string, v: number) => {
    const e = catalogue.entry(key)!;
    const value = Math.min(e.max!, Math.max(e.min!, Math.round(v / (e.step ?? 1)) * (e.step ?? 1)));
    dispatch(staged({ [key]: value }));
  };
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  const aloft = windAtHeight(wind.speedMps, plan.heightM);
  // Wings fly at a speed through the air; rotors hold one over ground, as far as their lean gives it.
  const against = rotors ? Math.min(speed, topMps - aloft) : groundSpeedAlong(speed, -aloft, 0);
  const groundPath = line.points
    .map((p) => `${x(p.distanceM).toFixed(1)} ${y(p.heightM - home).toFixed(1)}`)
    .join('L');
  const flight = [
    ...(plan.climbFirst
      ? [[LINE_M, startM] as const, [LINE_M, plan.heightM] as const]
      : [[LINE_M, startM] as const, [levelFrom, plan.heightM] as const]),
    [Math.min(levelFrom, 500), plan.heightM] as const,
    [0, circleM] as const,
  ];
  return (
    <>
      <Lead>
        Seen from the side, out to {m(LINE_M)}{' '}
        {!known
          ? 'on any bearing'
          : bearing === null
            ? `along the worst line to the launch point (bearing ${line.bearingDeg}°)`
            : `along bearing ${bearing}°`}
        . Drag the handles; the numbers are the settings.
      </Lead>
      {!known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
      <div className="relative mt-2 min-w-[640px]">
        <svg
          ref={svg}
          viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
          className="w-full"
          aria-label="The way home from the side"
        >
          {[0, 0.25, 0.5, 0.75, 1].map((s) => (
            <g key={s}>
              <path d={`M${LEFT - 40} ${y(s * top)}H${RIGHT + 16}`} stroke="var(--line)" />
              <text
                x={WIDTH}
                y={y(s * top) + 4}
                textAnchor="end"
                fontSize={13}
                className="num"
                fill="var(--soft)"
              >
                {m(s * top)}
              </text>
            </g>
          ))}
          <path
            d={`M${x(0)} ${HEIGHT - 20}L${groundPath}L${x(LINE_M)} ${HEIGHT - 20}Z`}
            fill="var(--sunk)"
            stroke="var(--contour)"
            strokeWidth={1.6}
          />
          <path
            d={`M${flight.map(([d, h]) => `${x(d).toFixed(1)} ${y(h).toFixed(1)}`).join('L')}`}
            fill="none"
            stroke="var(--forest)"
            strokeWidth={3}
            strokeLinejoin="round"
          />
          {low.length > 0 && (
            <path
              d={low.map((p) => `M${x(p.distanceM) - 3} ${y(heightAt(p.distanceM))}h6`).join('')}
              stroke="var(--red)"
              strokeWidth={5}
            />
          )}
          {worstPoint && (
            <g>
              <rect
                x={Math.min(x(worstPoint.distanceM) - 96, RIGHT - 190)}
                y={4}
                width={206}
                height={38}
                rx={4}
                fill="var(--red-wash)"
              />
              <text
                x={Math.min(x(worstPoint.distanceM) - 86, RIGHT - 180)}
                y={20}
                fontSize={13}
                fontWeight={600}
                fill="var(--red)"
              >
                {deepest > 0 ? `${m(deepest)} below the ridge` : `only ${m(-deepest)} above the ground`}
              </text>
              <text x={Math.min(x(worstPoint.distanceM) - 86, RIGHT - 180)} y={35} fontSize={13}>
                {plan.heightM > startM && !plan.climbFirst
                  ? 'It climbs too late: climb first.'
                  : `Clear it by ${m(GROUND_MARGIN_M)}.`}
              </text>
              <path
                d={`M${x(worstPoint.distanceM)} 42V${y(heightAt(worstPoint.distanceM)) - 6}`}
                stroke="var(--red)"
                strokeDasharray="2 3"
              />
            </g>
          )}
          <ellipse
            cx={x(0)}
            cy={y(circleM)}
            rx={Math.max(14, (radius / LINE_M) * (RIGHT - LEFT) * 2.2)}
            ry={7}
            fill="none"
            stroke="var(--forest)"
            strokeWidth={2}
          />
          <path d={`M${x(0) - 6} ${y(0)}l6 -7 6 7 -6 7z`} fill="var(--forest)" />
          <text x={x(0)} y={y(0) + 24} textAnchor="middle" fontSize={13} fill="var(--soft)">
            home
          </text>
          <text x={x(LINE_M)} y={y(startM) + 24} textAnchor="middle" fontSize={13} fill="var(--soft)">
            here the link dies
          </text>
          {rule !== 'keep-height' && (
            <DragHandle
              svg={svg}
              label="Return height"
              value={returnM}
              x={x(LINE_M * 0.42)}
              y={y(returnM)}
              axis="y"
              onDrag={(py) => put('return.height', toHeight(py))}
              onStep={(n) => put('return.height', returnM + 5 * n)}
            />
          )}
          <DragHandle
            svg={svg}
            label="Height where the link dies (not a setting)"
            value={startM}
            x={x(LINE_M)}
            y={y(startM)}
            axis="y"
            onDrag={(py) => setStartM(Math.min(800, Math.max(20, Math.round(toHeight(py) / 5) * 5)))}
            onStep={(n) => setStartM(Math.min(800, Math.max(20, startM + 5 * n)))}
          />
          {arrivalM !== null && (
            <DragHandle
              svg={svg}
              label="Arrival height"
              value={arrivalM}
              x={x(0)}
              y={y(arrivalM)}
              axis="y"
              onDrag={(py) => put('return.arrivalHeight', toHeight(py))}
              onStep={(n) => put('return.arrivalHeight', arrivalM + 5 * n)}
            />
          )}
        </svg>
        {rule !== 'keep-height' && (
          <On x={x(LINE_M * 0.42)} y={y(returnM) - 9}>
            <SettingField name="return.height" size="large" />
          </On>
        )}
        <On x={x(LINE_M * 0.2)} y={y(plan.heightM) + 24}>
          <SettingField name="return.speed" />{' '}
          <span className="text-[13px] text-soft">{rotors ? 'over ground' : 'through the air'}</span>
        </On>
        <On x={52} y={y(circleM) - 9}>
          <span className="text-[13px] text-soft">circle</span> <SettingField name="loiter.radius" />
        </On>
        <On x={x(LINE_M) - 6} y={y(startM) - 11}>
          <QuantityField
            label="Height where the link dies"
            unit="m"
            value={startM}
            min={20}
            max={800}
            step={5}
            onChange={setStartM}
          />
        </On>
        {arrivalM !== null && (
          <On x={x(0) + 58} y={y(arrivalM) - 9}>
            <SettingField name="return.arrivalHeight" />
          </On>
        )}
      </div>
      <RadioCards
        label="Climb on return"
        className="mb-3 flex max-w-[820px] flex-wrap gap-2"
        value={rule}
        cards={climbRules.map((id) => ({
          id,
          name: catalogue.entry('return.climb')?.choices?.find((c) => c.value === id)?.label ?? id,
        }))}
        onChange={(id) => dispatch(staged({ 'return.climb': id }))}
      />
      <div className="grid max-w-[820px] grid-cols-2 gap-x-6 min-[900px]:grid-cols-4 gap-y-3 border-line border-t pt-3">
        <Item name="Against the wind" note={`wind ${formatQuantity(aloft, 'm/s', units, 0)} up there`}>
          <span className={`num text-[20px] leading-7 ${against < 2 ? 'text-red' : ''}`}>
            {against <= 0 ? 'no way made' : formatQuantity(against, 'm/s', units, 1)}
          </span>
        </Item>
        <Item name="Time from here" note={`${m(LINE_M)} out, into the wind`}>
          <span className="num text-[20px] leading-7">
            {against > 0 ? formatDuration(LINE_M / against) : 'never'}
          </span>
        </Item>
        <Item name="Line to look at">
          <QuantityField
            label="Bearing"
            unit="deg"
            size="large"
            value={line.bearingDeg}
            min={0}
            max={360}
            step={1}
            onChange={(v) => setBearing(Math.round(v) % 360)}
          />
          {bearing !== null && (
            <TextButton tone="soft" className="ml-2 text-[13px]" onClick={() => setBearing(null)}>
              worst
            </TextButton>
          )}
        </Item>
        <Item name="Arrives to">
          <SettingField name="return.arrival" />
        </Item>
      </div>
    </>
  );
}

/** Something to be typed where the drawing shows it; in units of the drawing. */
function On({
  x,
  y,
  children,
}: {
  readonly x: number;
  readonly y: number;
  readonly children: React.ReactNode;
}) {
  return (
    <span
      className="absolute -translate-x-1/2 -translate-y-full whitespace-nowrap rounded-[3px] bg-sheet/85 px-1"
      style={{ left: `${(100 * x) / WIDTH}%`, top: `${(100 * y) / HEIGHT}%` }}
    >
      {children}
    </span>
  );
}

function Item({
  name,
  note,
  children,
}: {
  readonly name: string;
  readonly note?: string;
  readonly children: React.ReactNode;
}) {
  return (
    <div>
      <p className="text-soft">{name}</p>
      <div>{children}</div>
      {note && <p className="text-[13px] text-faint leading-4">{note}</p>}
    </div>
  );
}
