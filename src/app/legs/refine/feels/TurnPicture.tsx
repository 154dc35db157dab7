import { useEffect, useRef, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { rearView } from '#core/airframe/outline.ts';
import type { Feel } from '#core/answers/feel.ts';
import { formatNumber } from '#core/units/units.ts';
import { CraftRear } from '../../../drawing/CraftRear.tsx';
import { Button } from '../../../ui/Button.tsx';

const R = 84;
const W = 250;
const H = 200;

/** The craft from behind at its greatest bank; and rolled once as fast as full stick has it. */
export function TurnPicture({ airframe, feel }: { readonly airframe: Airframe; readonly feel: Feel }) {
  const [rolls, setRolls] = useState(0);
  const turn = useRef<SVGAnimateTransformElement>(null);
  useEffect(() => {
    if (rolls > 0) turn.current?.beginElement();
  }, [rolls]);
  const reach = Math.max(
    0.1,
    ...rearView(airframe).lines.flatMap((l) => [Math.abs(l.from[0]), Math.abs(l.to[0])]),
  );
  const scale = (R - 12) / reach;
  const at = (deg: number, r: number) => {
    const a = ((deg - 90) * Math.PI) / 180;
    return `${(r * Math.cos(a)).toFixed(1)} ${(r * Math.sin(a)).toFixed(1)}`;
  };
  const { bankDeg } = feel;
  return (
    <div>
      <svg
        viewBox={`${-W / 2} ${-H / 2} ${W} ${H}`}
        className="w-full max-w-[280px]"
        role="img"
        aria-label={`From behind, at its greatest bank of ${formatNumber(bankDeg, 0)} degrees`}
      >
        <path
          d={`M${at(-bankDeg, R)}A${R} ${R} 0 0 1 ${at(bankDeg, R)}`}
          fill="none"
          stroke="var(--forest)"
          strokeWidth={6}
          strokeOpacity={0.25}
        />
        {[-bankDeg, 0, bankDeg].map((deg) => (
          <path
            key={deg}
            d={`M${at(deg, R - 7)}L${at(deg, R + 7)}`}
            stroke="var(--forest)"
            strokeWidth={deg === 0 ? 1 : 2.4}
          />
        ))}
        <text
          transform={`translate(${at(bankDeg, R + 12).replace(' ', ',')})`}
          fontSize={13}
          className="num"
          fill="var(--ink)"
          dominantBaseline="middle"
        >
          {formatNumber(bankDeg, 0)}°
        </text>
        <g opacity={0.25}>
          <CraftRear airframe={airframe} scale={scale} />
        </g>
        <g transform={`rotate(${bankDeg})`}>
          <g key={rolls}>
            <CraftRear airframe={airframe} scale={scale} />
            {rolls > 0 && (
              <animateTransform
                attributeName="transform"
                type="rotate"
                from="0"
                to="360"
                dur={`${feel.rollTurnS}s`}
                begin="indefinite"
                fill="remove"
                ref={turn}
              />
            )}
          </g>
        </g>
      </svg>
      <Button onClick={() => setRolls(rolls + 1)}>Roll it once</Button>
      <p className="mt-1 text-soft">
        A full turn takes <b className="num font-semibold text-ink">{formatNumber(feel.rollTurnS, 1)} s</b> at
        full stick.
      </p>
    </div>
  );
}
