import { type RefObject, useMemo } from 'react';
import type { ActuatorId } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { type RearLine, rearView } from '#core/airframe/outline.ts';
import { Rotation } from './Rotation.tsx';

interface Props {
  readonly airframe: Airframe;
  readonly scale: number;
  readonly root?: RefObject<SVGGElement | null>;
}

/** The craft from behind, to scale, wing root at the origin. Surfaces are bars that rise and fall. */
export function CraftRear({ airframe, scale: k, root }: Props) {
  const view = useMemo(() => rearView(airframe), [airframe]);
  const d = (l: RearLine) =>
    `M${(l.from[0] * k).toFixed(1)} ${(-l.from[1] * k).toFixed(1)}L${(l.to[0] * k).toFixed(1)} ${(-l.to[1] * k).toFixed(1)}`;
  return (
    <g ref={root}>
      {view.lines.map((l, i) => (
        <path key={i} d={d(l)} stroke="var(--ink)" strokeWidth={3} strokeLinecap="round" />
      ))}
      {view.motors.map((m) => (
        <ellipse
          key={m.id}
          cx={m.at[0] * k}
          cy={-m.at[1] * k}
          rx={m.radius * k}
          ry={m.flat ? 3.5 : m.radius * k}
          data-part={m.id}
          fill="none"
          stroke="var(--soft)"
          strokeDasharray="2 3"
        />
      ))}
      {view.motors
        .filter((m) => !m.flat)
        .map((m) => (
          <Rotation
            key={`turns ${m.id}`}
            spin={airframe.motors.find((x) => x.id === m.id)?.spin ?? 'clockwise'}
            cx={m.at[0] * k}
            cy={-m.at[1] * k}
            r={m.radius * k}
          />
        ))}
      <circle r={view.bodyRadius * k} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1.4} />
      {view.surfaces.map((s) =>
        s.lines.map((l, i) => (
          <path
            key={`${s.id}${i}`}
            data-part={s.id}
            data-upright={l.from[0] === l.to[0] ? 'yes' : undefined}
            d={d(l)}
            stroke="var(--soft)"
            strokeWidth={5}
            opacity={0}
          />
        )),
      )}
    </g>
  );
}

const THROW_PX = 13;

/** Moves the bars of a craft drawn from behind. */
export function paintRear(
  root: SVGGElement | null,
  positions: Readonly<Partial<Record<ActuatorId, number>>> | null,
): void {
  if (!root) return;
  for (const part of root.querySelectorAll<SVGPathElement>('path[data-part]')) {
    const value = positions?.[part.dataset.part as ActuatorId] ?? 0;
    const shown = Math.abs(value) > 0.02;
    part.style.opacity = shown ? '1' : '0';
    part.style.stroke = 'var(--lake)';
    // Positive is trailing edge down; on a rudder, to the left.
    part.style.transform = part.dataset.upright
      ? `translateX(${(-THROW_PX * value).toFixed(2)}px)`
      : `translateY(${(THROW_PX * value).toFixed(2)}px)`;
  }
  for (const disc of root.querySelectorAll<SVGEllipseElement>('ellipse[data-part]')) {
    const value = positions?.[disc.dataset.part as ActuatorId] ?? 0;
    disc.style.fill = value > 0.02 ? 'var(--lake)' : 'none';
    disc.style.fillOpacity = '0.35';
  }
}
