import type { Scenario } from '#core/formats/scenario.ts';
import { DEG, wrapBearingDeg } from '#core/math/scalar.ts';
import { formatQuantity } from '#core/units/units.ts';
import { useApp } from '../store/store.ts';

/** The wind as an arrow that can be turned; Shift with the arrow keys changes its strength. */
export function WindHandle({
  wind,
  onWind,
  x,
  y,
}: {
  readonly x: number;
  readonly y: number;
  readonly wind: Pick<Scenario['wind'], 'speedMps' | 'fromDeg'>;
  readonly onWind: (fromDeg: number, speedMps: number) => void;
}) {
  const units = useApp((s) => s.ui.units);
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="slider"
      tabIndex={0}
      aria-label="Wind: drag to turn it; arrows turn it, with Shift stronger or weaker"
      aria-valuenow={wind.fromDeg}
      aria-valuemin={0}
      aria-valuemax={360}
      aria-valuetext={`${formatQuantity(wind.speedMps, 'm/s', units)} from ${wind.fromDeg}°`}
      className="cursor-grab touch-none"
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => {
        if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
        const box = e.currentTarget.querySelector('circle')!.getBoundingClientRect();
        const dx = e.clientX - (box.left + box.right) / 2;
        const dy = e.clientY - (box.top + box.bottom) / 2;
        if (Math.hypot(dx, dy) < 4) return;
        // The head of the arrow shows where it blows to.
        const to = Math.atan2(dx, -dy) / DEG;
        onWind(wrapBearingDeg(Math.round((to + 180) / 5) * 5), wind.speedMps);
      }}
      onKeyDown={(e) => {
        const up = e.key === 'ArrowRight' || e.key === 'ArrowUp';
        const down = e.key === 'ArrowLeft' || e.key === 'ArrowDown';
        if (!up && !down) return;
        e.preventDefault();
        const by = up ? 1 : -1;
        if (e.shiftKey) onWind(wind.fromDeg, Math.min(40, Math.max(0, wind.speedMps + by)));
        else onWind(wrapBearingDeg(wind.fromDeg + 5 * by), wind.speedMps);
      }}
    >
      <circle r={4.6} fill="var(--sheet)" stroke="var(--line)" strokeWidth={0.2} />
      <g transform={`rotate(${wind.fromDeg + 180})`}>
        <path
          d="M0 2.800V-2.600M-1.200 -1.200L0 -2.800 1.200 -1.200"
          fill="none"
          stroke="var(--lake)"
          strokeWidth={0.5}
        />
      </g>
      <text y={7.4} textAnchor="middle" fontSize={2.3} className="num" fill="var(--soft)">
        {formatQuantity(wind.speedMps, 'm/s', units)}
      </text>
    </g>
  );
}
