import { type Airframe, widthOf } from '#core/airframe/airframe.ts';
import { opposingDirection, surfacesAgainst } from '#core/proofs/surfaceAnswers.ts';
import { CraftRear } from '../../../drawing/CraftRear.tsx';

const TILT_DEG = 17;
const SPAN = 220;

/** The craft from behind with its right wing down, and which way its surfaces go against that. */
export function TiltPicture({ airframe }: { readonly airframe: Airframe }) {
  const k = SPAN / widthOf(airframe);
  // Outermost on either side: those of the wing.
  const arrows = surfacesAgainst(airframe, 'roll-right').flatMap((id) => {
    const side = id.startsWith('left') ? -1 : id.startsWith('right') ? 1 : 0;
    const way = opposingDirection(id, 'roll-right');
    return side === 0 || !/^(left|right)-(aileron|elevon|flaperon)$/.test(id)
      ? []
      : [{ id, x: 0.36 * side * SPAN, up: way === 'up' }];
  });
  return (
    <svg viewBox="-130 -62 260 124" className="mt-2 w-full" aria-hidden="true">
      <path d="M-125 0H125" stroke="var(--contour)" strokeDasharray="2 4" />
      <g transform={`rotate(${TILT_DEG})`}>
        <CraftRear airframe={airframe} scale={k} />
        {arrows.map(({ id, x, up }) => {
          const tip = up ? -34 : 34;
          const head = up ? 6 : -6;
          return (
            <path
              key={id}
              d={`M${x} ${up ? -14 : 14}V${tip}M${x - 5} ${tip + head}L${x} ${tip}L${x + 5} ${tip + head}`}
              fill="none"
              stroke="var(--lake)"
              strokeWidth={2.4}
            />
          );
        })}
      </g>
    </svg>
  );
}
