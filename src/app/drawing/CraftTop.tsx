import { type RefObject, useMemo } from 'react';
import { type ActuatorId, actuatorNames, isMotor } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { type Polygon, topView } from '#core/airframe/outline.ts';
import { Rotation } from './Rotation.tsx';

interface Props {
  readonly airframe: Airframe;
  /** Pixels per metre. */
  readonly scale: number;
  /** Where the live drawing finds its parts: `[data-part=id]`. */
  readonly root?: RefObject<SVGGElement | null>;
  readonly picked?: ActuatorId | null;
  readonly onPick?: ((id: ActuatorId) => void) | undefined;
  readonly settled?: ReadonlySet<ActuatorId>;
}

const path = (p: Polygon, k: number) =>
  `M${p.map(([x, y]) => `${(x * k).toFixed(1)} ${(y * k).toFixed(1)}`).join('L')}Z`;

/** The lesser extent of a shape, m. */
const breadth = (p: Polygon) => {
  const extent = (axis: 0 | 1) => Math.max(...p.map((q) => q[axis])) - Math.min(...p.map((q) => q[axis]));
  return Math.min(extent(0), extent(1));
};

/** The craft from above, nose up, drawn to scale with the nose at the origin. */
export function CraftTop({ airframe, scale: k, root, picked, onPick, settled }: Props) {
  const view = useMemo(() => topView(airframe), [airframe]);
  const spinOf = new Map(airframe.motors.map((m) => [m.id as ActuatorId, m.spin]));
  const pickable = (id: ActuatorId) =>
    onPick
      ? {
          role: 'button',
          tabIndex: 0,
          'aria-label': `${actuatorNames[id]}${picked === id ? ', chosen' : ''}`,
          onClick: () => onPick(id),
          onKeyDown: (e: React.KeyboardEvent) => {
            if (e.key === 'Enter') onPick(id);
          },
          className: 'cursor-pointer focus-visible:outline-2 [&:hover>path]:stroke-lake',
        }
      : {};
  const fill = (id: ActuatorId) =>
    picked === id ? 'var(--lake)' : settled?.has(id) ? 'var(--forest-wash)' : 'var(--sheet)';
  return (
    <g ref={root} stroke="var(--ink)" strokeWidth={1.4} strokeLinejoin="round">
      {view.planforms.map((p, i) => (
        <path key={i} d={path(p, k)} fill="var(--sunk)" pointerEvents="none" />
      ))}
      {view.motors.map((m) => (
        <g key={m.id} {...pickable(m.id)}>
          <path d={path(m.polygons[0]!, k)} fill={picked === m.id ? 'var(--lake)' : 'var(--sunk)'} />
          <ellipse
            data-part={m.id}
            cx={m.centre[0] * k}
            cy={m.centre[1] * k}
            rx={m.discRadius * k}
            ry={m.flat ? m.discRadius * k : Math.max(3.5, m.discRadius * k * 0.1)}
            fill="var(--sheet)"
            fillOpacity={m.flat ? 0.15 : 0.6}
            stroke="var(--soft)"
            strokeWidth={1.2}
          />
          {m.flat && (
            <Rotation
              spin={spinOf.get(m.id) ?? 'clockwise'}
              cx={m.centre[0] * k}
              cy={m.centre[1] * k}
              r={m.discRadius * k}
            />
          )}
          {onPick && (
            <rect
              x={(m.centre[0] - m.discRadius) * k}
              y={m.flat ? (m.centre[1] - m.discRadius) * k : m.centre[1] * k - 10}
              width={2 * m.discRadius * k}
              height={(m.flat ? 2 * m.discRadius : 0.22) * k}
              fill="transparent"
              stroke="none"
            />
          )}
        </g>
      ))}
      {/* What lies under the body, such as a motor in the nose, can be picked through it. */}
      <path d={path(view.body, k)} fill="var(--sunk)" pointerEvents="none" />
      {view.surfaces.map((s) => (
        <g key={s.id} {...pickable(s.id)}>
          {s.polygons.map((p, i) => (
            <path
              key={i}
              data-part={s.id}
              d={path(p, k)}
              fill={fill(s.id)}
              stroke={picked === s.id ? 'var(--lake)' : 'var(--ink)'}
            />
          ))}
          {onPick &&
            s.polygons.map((p, i) => (
              // A thin one, such as a rudder from above, does not take what lies beside it.
              <path
                key={i}
                d={path(p, k)}
                fill="transparent"
                stroke="transparent"
                strokeWidth={Math.min(14, 3 + breadth(p) * k)}
              />
            ))}
        </g>
      ))}
    </g>
  );
}

/**
 * Shows positions on the parts of a drawn craft, without React: a surface takes the live colour by how far it
 * is deflected, darker when its trailing edge is up; a turning disc fills.
 */
export function paintTop(
  root: SVGGElement | null,
  positions: Readonly<Partial<Record<ActuatorId, number>>> | null,
): void {
  if (!root) return;
  for (const part of root.querySelectorAll<SVGElement>('[data-part]')) {
    const id = part.dataset.part as ActuatorId;
    const value = positions?.[id] ?? 0;
    const size = Math.min(1, Math.abs(value) * (isMotor(id) ? 1.5 : 1.4));
    if (size < 0.02) {
      if (part.dataset.live) {
        part.style.removeProperty('fill');
        part.style.removeProperty('fill-opacity');
        part.style.removeProperty('transform');
        delete part.dataset.live;
      }
      continue;
    }
    part.dataset.live = 'yes';
    part.style.fill = 'var(--lake)';
    part.style.fillOpacity = String(0.25 + 0.75 * size);
    if (!isMotor(id)) part.style.transform = `translateY(${(-2.5 * value).toFixed(2)}px)`;
  }
}
