import { useMemo } from 'react';
import { type Airframe, actuatorsOf, isRotorcraft, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { performanceOf } from '#core/airframe/performance.ts';
import { CraftTop } from '../../drawing/CraftTop.tsx';
import type { PartId } from './PartEditor.tsx';

interface Props {
  readonly airframe: Airframe;
  readonly picked: PartId | null;
  readonly onPick: (part: PartId) => void;
}

/** The craft from above on a 100 mm grid; where it may balance is drawn beside it. */
export function AirframeDrawing({ airframe, picked, onPick }: Props) {
  const view = useMemo(() => topView(airframe), [airframe]);
  const width = widthOf(airframe);
  const k = Math.min(470 / width, 330 / (view.length + view.ahead));
  const half = (width / 2) * k;
  const top = -view.ahead * k;
  const bottom = view.length * k;
  const rotors = isRotorcraft(airframe);
  return (
    <svg
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
      <text x={half + 20} y={bottom + 12} textAnchor="end" fontSize={12} fill="var(--soft)">
        100 mm grid
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
      <text x={-10} y={p.neutralPointAftM * k + 13} textAnchor="end" fontSize={12} fill="var(--pitch)">
        neutral point
      </text>
      <text x={band + 6} y={p.cgForwardM * k - 8} textAnchor="middle" fontSize={13} fill="var(--soft)">
        balance here
      </text>
    </g>
  );
}
