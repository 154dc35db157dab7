import { type RefObject, useMemo, useRef } from 'react';
import { isMotor } from '#core/airframe/actuators.ts';
import { type Airframe, actuatorsOf, isRotorcraft, type Weight, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { performanceOf } from '#core/airframe/performance.ts';
import { formatQuantity } from '#core/units/units.ts';
import { CraftTop } from '../../drawing/CraftTop.tsx';
import { useApp } from '../../store/store.ts';
import { dragOn } from '../../ui/dragOn.ts';
import type { PartId } from './PartEditor.tsx';

interface Props {
  readonly airframe: Airframe;
  readonly picked: PartId | null;
  readonly onPick: (part: PartId) => void;
  /** Parts to be moved by their weight; left out while the shape is edited. */
  readonly weights?: WeightsOnDrawing | undefined;
}

interface WeightsOnDrawing {
  readonly list: readonly Weight[];
  readonly picked: string | null;
  readonly onPick: (id: string) => void;
  readonly onMove: (id: string, aftM: number, rightM: number) => void;
}

/** The craft from above on a 100 mm grid; where it may balance is drawn beside it. */
export function AirframeDrawing({ airframe, picked, onPick, weights }: Props) {
  const root = useRef<SVGSVGElement>(null);
  const view = useMemo(() => topView(airframe), [airframe]);
  const width = widthOf(airframe);
  const k = Math.min(470 / width, 330 / (view.length + view.ahead));
  const half = (width / 2) * k;
  const top = -view.ahead * k;
  const bottom = view.length * k;
  const rotors = isRotorcraft(airframe);
  const units = useApp((s) => s.ui.units);
  return (
    <svg
      ref={root}
      viewBox={`${-half - 30} ${top - 44} ${2 * half + (rotors ? 60 : 112)} ${bottom - top + 66}`}
      className="max-h-[345px] w-full"
      role="group"
      aria-label={`${airframe.name} from above, to scale`}
    >
      <defs>
        <pattern id="grid" width={0.1 * k} height={0.1 * k} patternUnits="userSpaceOnUse">
          <path
            d={`M${0.1 * k} 0H0V${0.1 * k}`}
            fill="none"
            stroke="var(--line)"
            strokeWidth={0.6}
            opacity={0.7}
          />
        </pattern>
      </defs>
      <rect x={-half - 20} y={top - 20} width={2 * half + 40} height={bottom - top + 36} fill="url(#grid)" />
      <text x={half + 20} y={bottom + 12} textAnchor="end" fontSize={13.5} fill="var(--soft)">
        {formatQuantity(100, 'mm', units)} grid
      </text>
      <path
        d={`M${-half} ${top - 30}H${half}M${-half} ${top - 36}v12M${half} ${top - 36}v12`}
        stroke="var(--contour)"
        strokeWidth={1.2}
      />
      <CraftTop
        airframe={airframe}
        scale={k}
        picked={actuatorsOf(airframe).find((id) => id === picked) ?? null}
        onPick={onPick}
      />
      {rotors ? (
        <CentreMark y={airframe.cgAftM * k} ok />
      ) : (
        <BalanceMarks airframe={airframe} scale={k} half={half} />
      )}
      {weights && <WeightDots svg={root} scale={k} weights={weights} />}
    </svg>
  );
}

function CentreMark({ y, ok }: { readonly y: number; readonly ok: boolean }) {
  const color = ok ? 'var(--forest)' : 'var(--red)';
  return (
    <g aria-hidden="true" pointerEvents="none">
      <circle r={8} cy={y} fill="var(--sheet)" stroke={color} strokeWidth={2} />
      <path
        d={`M0 ${y}m-8 0a8 8 0 0 1 8 -8v16a8 8 0 0 1 -8 -8`}
        fill={color}
        transform={`rotate(45 0 ${y})`}
      />
    </g>
  );
}

/** The range of balance as a bar beside the craft, and the neutral point. */
function BalanceMarks({
  airframe,
  scale: k,
  half,
}: {
  readonly airframe: Airframe;
  readonly scale: number;
  readonly half: number;
}) {
  const p = useMemo(() => performanceOf(airframe), [airframe]);
  const ok = airframe.cgAftM >= p.cgForwardM && airframe.cgAftM <= p.cgAftLimitM;
  const band = half + 34;
  return (
    <g aria-hidden="true" pointerEvents="none">
      <path
        d={`M${half * 0.28} ${p.cgForwardM * k}H${band}M${half * 0.28} ${p.cgAftLimitM * k}H${band}`}
        stroke="var(--forest)"
        strokeDasharray="3 3"
      />
      <rect
        x={band - 5}
        y={p.cgForwardM * k}
        width={10}
        height={Math.max(2, (p.cgAftLimitM - p.cgForwardM) * k)}
        fill="var(--forest-wash)"
        stroke="var(--forest)"
      />
      <path
        d={`M0 ${airframe.cgAftM * k}H${band}`}
        stroke={ok ? 'var(--forest)' : 'var(--red)'}
        strokeWidth={1.2}
      />
      <CentreMark y={airframe.cgAftM * k} ok={ok} />
      <path
        d={`M-6 ${p.neutralPointAftM * k}h12M0 ${p.neutralPointAftM * k - 6}v12`}
        stroke="var(--pitch)"
        strokeWidth={2}
      />
      <text x={-10} y={p.neutralPointAftM * k + 13} textAnchor="end" fontSize={13.5} fill="var(--pitch)">
        neutral point
      </text>
      <text x={band + 6} y={p.cgForwardM * k - 8} textAnchor="middle" fontSize={13} fill="var(--soft)">
        balance here
      </text>
    </g>
  );
}

/** Steps of the arrow keys, m; ten times as far with Shift. */
const STEP_M = 0.001;

/** Each part where its middle is, as large as it is heavy; dragged, or moved by the arrow keys. */
function WeightDots({
  svg,
  scale: k,
  weights: { list, picked, onPick, onMove },
}: {
  readonly svg: RefObject<SVGSVGElement | null>;
  readonly scale: number;
  readonly weights: WeightsOnDrawing;
}) {
  const heaviest = Math.max(...list.map((w) => w.massKg));
  // The heavy ones lie below, so that each can be taken.
  return [...list]
    .sort((a, b) => b.massKg - a.massKg)
    .filter((w) => !isMotor(w.id))
    .map((w) => {
      const r = 3.5 + 11 * Math.sqrt(w.massKg / heaviest);
      const on = picked === w.id;
      return (
        <g
          key={w.id}
          role="slider"
          tabIndex={0}
          aria-label={`${w.name}, aft of the nose`}
          aria-valuenow={Math.round(1000 * w.aftM)}
          aria-valuetext={`${Math.round(1000 * w.aftM)} mm`}
          className="cursor-grab touch-none"
          onFocus={() => onPick(w.id)}
          {...dragOn(svg, (at) => {
            const millimetre = (v: number) => Math.round((1000 * v) / k) / 1000;
            onMove(w.id, millimetre(at.y), Math.abs(at.x) < 5 ? 0 : millimetre(at.x));
          })}
          onKeyDown={(e) => {
            const by = e.shiftKey ? 10 * STEP_M : STEP_M;
            const move = {
              ArrowUp: [-by, 0],
              ArrowDown: [by, 0],
              ArrowLeft: [0, -by],
              ArrowRight: [0, by],
            }[e.key];
            if (!move) return;
            e.preventDefault();
            onMove(w.id, w.aftM + move[0]!, w.rightM + move[1]!);
          }}
        >
          <title>{`${w.name}, ${Math.round(1000 * w.massKg)} g`}</title>
          <circle cx={w.rightM * k} cy={w.aftM * k} r={Math.max(r, 9)} fill="transparent" />
          <circle
            cx={w.rightM * k}
            cy={w.aftM * k}
            r={r}
            fill="var(--yaw)"
            fillOpacity={on ? 0.75 : 0.28}
            stroke="var(--yaw)"
            strokeWidth={on ? 2.4 : 1.2}
          />
          {on && (
            <text x={w.rightM * k + r + 5} y={w.aftM * k + 4} fontSize={13.5} className="pointer-events-none">
              {w.name}
            </text>
          )}
        </g>
      );
    });
}
