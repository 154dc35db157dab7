import { useMemo, useRef } from 'react';
import type { RehearsalResult } from '#core/formats/rehearsalResult.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { slidTo } from '../../drawing/slidTo.ts';
import type { KeptFlight } from '../../store/rehearsalSlice.ts';
import { useApp } from '../../store/store.ts';
import { pointOn } from '../../ui/dragOn.ts';

const LEFT = 64;
const WIDTH = 700;
const TOP = 8;
const PROFILE = 74;

const stateFill: Readonly<Record<string, string>> = {
  fine: 'var(--forest-wash)',
  noticed: 'var(--amber-wash)',
  guarding: 'var(--amber-wash)',
  acting: 'var(--lake-wash)',
  recovering: 'var(--amber-wash)',
};

interface Props {
  readonly result: RehearsalResult;
  readonly kept: readonly KeptFlight[];
  readonly cursor: number;
  /** Seconds that the strip shows. */
  readonly spanS: number;
  readonly onCursor: (index: number) => void;
}

/** Height over the ground and the states of the link, along time; the cursor runs over both. */
export function FlightStrip({ result, kept, cursor, spanS, onCursor }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const units = useApp((s) => s.ui.units);
  const { track } = result;
  const ground = useMemo(() => track.map((p) => p.groundM), [track]);
  const top =
    Math.max(
      120,
      ...track.map((p) => p.heightM),
      ...ground,
      ...kept.flatMap((k) => k.result.track.map((p) => p.heightM)),
    ) * 1.08;
  const x = (s: number) => LEFT + (s / spanS) * WIDTH;
  const y = (h: number) => TOP + PROFILE - (Math.max(0, h) / top) * PROFILE;
  const every = Math.max(1, Math.floor(track.length / 700));
  const thin = track
    .map((p, i) => ({ p, g: ground[i]! }))
    .filter((_, i) => i % every === 0 || i === track.length - 1);
  const here = track[Math.min(cursor, track.length - 1)]!;
  const states = result.lostLink.map((s, i) => ({
    ...s,
    until: result.lostLink[i + 1]?.atS ?? track.at(-1)!.atS,
  }));
  const seek = (e: React.PointerEvent) => {
    const p = pointOn(svg.current, e);
    if (!p) return;
    const s = ((p.x - LEFT) / WIDTH) * spanS;
    const at = track.findIndex((q) => q.atS >= s);
    onCursor(at < 0 ? track.length - 1 : at);
  };
  return (
    <svg
      ref={svg}
      viewBox="0 0 776 130"
      className="w-full shrink-0 cursor-crosshair"
      role="slider"
      tabIndex={0}
      aria-label="Time in the flight"
      aria-valuenow={Math.round(here.atS)}
      aria-valuemin={0}
      aria-valuemax={Math.round(track.at(-1)!.atS)}
      aria-valuetext={`${formatClock(here.atS)}, ${here.heightM.toFixed(0)} m above the sea, ${here.mode}`}
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        seek(e);
      }}
      onPointerMove={(e) => e.buttons > 0 && seek(e)}
      onKeyDown={(e) => {
        const to = slidTo(e, cursor, track.length - 1, 2);
        if (to === null) return;
        e.preventDefault();
        onCursor(to);
      }}
    >
      <text x={0} y={TOP + 14} fontSize={13} fill="var(--soft)">
        height
      </text>
      <text x={0} y={TOP + 30} fontSize={12} className="num" fill="var(--lake)">
        {formatQuantity(here.heightM, 'm', units, 0)}
      </text>
      <path
        d={`M${LEFT} ${y(0)}L${thin.map(({ p, g }) => `${x(p.atS).toFixed(1)} ${y(g).toFixed(1)}`).join('L')}L${x(track.at(-1)!.atS)} ${y(0)}Z`}
        fill="var(--sunk)"
        stroke="var(--contour)"
      />
      <path
        d={`M${thin.map(({ p }) => `${x(p.atS).toFixed(1)} ${y(p.heightM).toFixed(1)}`).join('L')}`}
        fill="none"
        stroke="var(--lake)"
        strokeWidth={2}
      />
      {kept.map((k) => (
        <path
          key={k.id}
          d={`M${k.result.track
            .filter((_, i) => i % 4 === 0)
            .map((p) => `${x(p.atS).toFixed(1)} ${y(p.heightM).toFixed(1)}`)
            .join('L')}`}
          fill="none"
          stroke="var(--soft)"
          strokeWidth={1}
          strokeDasharray={`${2 + 2 * (k.id % 3)} 3`}
        />
      ))}
      <text x={0} y={TOP + PROFILE + 28} fontSize={13} fill="var(--soft)">
        link
      </text>
      {states.map((s) => (
        <g key={`${s.state}${s.atS}`}>
          <rect
            x={x(s.atS)}
            y={TOP + PROFILE + 12}
            width={Math.max(1.5, x(s.until) - x(s.atS))}
            height={22}
            fill={stateFill[s.state]}
          />
          {x(s.until) - x(s.atS) > 60 && (
            <text x={x(s.atS) + 8} y={TOP + PROFILE + 27} fontSize={13}>
              {s.state === 'acting' ? 'lost: the board acts' : s.state}
            </text>
          )}
        </g>
      ))}
      <path
        d={`M${x(here.atS)} ${TOP}V${TOP + PROFILE + 34}`}
        className="cursor"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      <text
        x={Math.min(Math.max(x(here.atS), LEFT + 18), LEFT + WIDTH - 18)}
        y={TOP + PROFILE + 46}
        textAnchor="middle"
        fontSize={11}
        className="num"
      >
        {formatClock(here.atS)}
      </text>
    </svg>
  );
}
