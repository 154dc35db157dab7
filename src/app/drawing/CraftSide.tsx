import { type RefObject, useMemo } from 'react';
import type { ActuatorId } from '#core/airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';

interface Props {
  readonly airframe: Airframe;
  readonly scale: number;
  readonly root?: RefObject<SVGGElement | null>;
}

/** A deflection of 1 turns a surface on its hinge by this, degrees. */
const FULL_DEG = 26;

/** From the foremost to the aftmost of the craft and of rotors that lift it, m. */
export function sideLength({ lengthM, motors }: Airframe): number {
  const lifting = motors.filter((m) => m.thrust === 'up');
  const from = Math.min(0, ...lifting.map((m) => m.aftM - m.propDiameterM / 2));
  return Math.max(0.1, lengthM, ...lifting.map((m) => m.aftM + m.propDiameterM / 2)) - from;
}

/** The craft from its left side, nose to the left, its balance at the origin: what is up and down about the pitch axis. */
export function CraftSide({ airframe, scale: k, root }: Props) {
  const { length } = useMemo(() => topView(airframe), [airframe]);
  const x = (aftM: number) => (aftM - airframe.cgAftM) * k;
  const half = (airframe.bodyHeightM / 2) * k;
  const end = airframe.lengthM;
  const lifting = airframe.motors.filter((m) => m.thrust === 'up');
  return (
    <g ref={root} strokeLinejoin="round" strokeLinecap="round">
      {lifting.map((m) => (
        <g key={m.id} stroke="var(--ink)">
          {isRotorcraft(airframe) && (
            <path d={`M${x(airframe.cgAftM)} 0L${x(m.aftM)} ${-m.upM * k}`} strokeWidth={4} />
          )}
          <path d={`M${x(m.aftM)} ${-m.upM * k + 3}v-12`} strokeWidth={9} strokeLinecap="butt" />
          <ellipse
            cx={x(m.aftM)}
            cy={-m.upM * k - 11}
            rx={(m.propDiameterM / 2) * k}
            ry={3}
            fill="none"
            stroke="var(--soft)"
            strokeDasharray="2 3"
          />
        </g>
      ))}
      <path
        d={`M${x(0)} 0C${x(0.1 * end)} ${-1.1 * half} ${x(0.35 * end)} ${-half} ${x(0.5 * end)} ${-0.9 * half}L${x(end)} ${-0.25 * half}V${0.15 * half}L${x(0.5 * end)} ${half}C${x(0.3 * end)} ${half} ${x(0.06 * end)} ${0.9 * half} ${x(0)} 0Z`}
        fill="var(--sunk)"
        stroke="var(--ink)"
        strokeWidth={1.4}
      />
      {airframe.planforms
        .filter((p) => !p.pair || p.dihedralDeg > 50)
        .map((p) => {
          const h = p.pair ? p.spanM / 2 : p.spanM;
          const y = -p.upM * k;
          return (
            <path
              key={p.id}
              d={`M${x(p.rootAftM)} ${y}L${x(p.tipAftM)} ${y - h * k}H${x(p.tipAftM + p.tipChordM)}L${x(p.rootAftM + p.rootChordM)} ${y}Z`}
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={1.2}
            />
          );
        })}
      {airframe.planforms
        .filter((p) => p.pair && p.dihedralDeg <= 50)
        .map((p) => (
          <path
            key={p.id}
            d={`M${x(p.rootAftM)} ${-p.upM * k}H${x(p.rootAftM + p.rootChordM)}`}
            stroke="var(--ink)"
            strokeWidth={4}
          />
        ))}
      {airframe.surfaces
        .filter((s) => s.on !== 'motor')
        .flatMap((s) => {
          const p = airframe.planforms.find((f) => f.id === s.on);
          // Upright ones turn about an axis that is seen edge on here.
          if (!p?.pair) return [];
          const chord = s.chordShare * p.rootChordM;
          const hinge = p.rootAftM + p.rootChordM - chord;
          const at = [x(hinge), -p.upM * k] as const;
          return [
            <path
              key={s.id}
              data-part={s.id}
              data-hinge={at.join(' ')}
              d={`M${at[0]} ${at[1]}H${x(hinge + Math.max(chord, 0.05 * length))}`}
              stroke="var(--lake)"
              strokeWidth={4.5}
            />,
          ];
        })}
      <path d="M-4 0h8M0 -4v8" stroke="var(--soft)" strokeWidth={1} />
    </g>
  );
}

/** Shows how surfaces are deflected, without React. Positive is trailing edge down. */
export function paintSide(
  root: SVGGElement | null,
  positions: Readonly<Partial<Record<ActuatorId, number>>> | null,
): void {
  for (const part of root?.querySelectorAll<SVGPathElement>('[data-part]') ?? []) {
    const value = positions?.[part.dataset.part as ActuatorId] ?? 0;
    const turn = (FULL_DEG * value).toFixed(1);
    part.setAttribute('transform', `rotate(${turn} ${part.dataset.hinge})`);
  }
}
