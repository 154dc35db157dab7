import type { Place } from '#core/navigation/earth.ts';
import type { Fence } from '#core/plan/plan.ts';
import type { SiteFrame } from '../../../drawing/siteFrame.ts';
import { dragOn } from '../../../ui/dragOn.ts';
import { halo } from './halo.ts';

interface FenceProps {
  readonly fence: Fence;
  readonly at: number;
  readonly frame: SiteFrame;
  readonly k: number;
  /** The corner that is picked; null where the fence is not. */
  readonly picked: number | null;
  /** Something else is drawn now: it takes no clicks. */
  readonly quiet: boolean;
  readonly svg: React.RefObject<SVGSVGElement | null>;
  readonly onPick: (corner: number) => void;
  readonly onMove: (corner: number, place: Place) => void;
  readonly nudge: (e: React.KeyboardEvent, place: Place, put: (p: Place) => void) => boolean;
}

/** A fence: posts outside of what is kept in, hatched where it is kept out. */
export function FenceDrawn({ fence, at, frame, k, picked, quiet, svg, onPick, onMove, nudge }: FenceProps) {
  const { area, keep, name } = fence;
  const ink = keep === 'out' ? 'var(--red)' : 'var(--roll)';
  const corners = 'corners' in area ? area.corners : [area];
  const places = corners.map((c) => frame.at(c));
  const hatch = `kept-out-${at}`;
  const line = {
    stroke: ink,
    strokeWidth: (picked === null ? 0.4 : 0.6) * k,
    strokeDasharray: keep === 'in' ? `${1.6 * k} ${0.5 * k} ${0.4 * k} ${0.5 * k}` : undefined,
    fill: keep === 'out' ? `url(#${hatch})` : 'none',
    className: quiet ? 'pointer-events-none' : 'cursor-pointer',
    onPointerDown: () => onPick(0),
  };
  const [lx, ly] = places.reduce((a, b) => (b[1] < a[1] ? b : a));
  const up = 'corners' in area ? 0 : area.radiusM / frame.unitM;
  return (
    <g>
      <pattern
        id={hatch}
        width={1.2 * k}
        height={1.2 * k}
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(-45)"
      >
        <path d={`M0 0V${1.2 * k}`} stroke={ink} strokeWidth={0.14 * k} strokeOpacity={0.6} />
      </pattern>
      {'corners' in area ? (
        <path d={`M${places.map((p) => p.join(' ')).join('L')}Z`} {...line} />
      ) : (
        <circle cx={places[0]![0]} cy={places[0]![1]} r={area.radiusM / frame.unitM} {...line} />
      )}
      <text
        x={lx}
        y={ly - up - 1 * k}
        fontSize={2 * k}
        textAnchor="middle"
        fill={ink}
        fontWeight={600}
        pointerEvents="none"
        {...halo}
        strokeWidth={0.6 * k}
      >
        {name}
      </text>
      {picked !== null &&
        places.map(([x, y], i) => (
          <g
            key={i}
            transform={`translate(${x} ${y}) scale(${k})`}
            role="button"
            tabIndex={0}
            aria-label={
              'corners' in area
                ? `Corner ${i + 1} of ${name}: arrows move it`
                : `Middle of ${name}: arrows move it`
            }
            className="cursor-move"
            {...dragOn(
              svg,
              (p) => onMove(i, frame.placeAt(p.x, p.y)),
              () => onPick(i),
            )}
            onKeyDown={(e) => nudge(e, corners[i]!, (place) => onMove(i, place))}
          >
            <circle r={1.6} fill="transparent" />
            <rect
              x={-0.7}
              y={-0.7}
              width={1.4}
              height={1.4}
              fill="var(--sheet)"
              stroke={ink}
              strokeWidth={0.4}
            />
          </g>
        ))}
    </g>
  );
}
