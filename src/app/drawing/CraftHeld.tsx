import { type RefObject, useMemo } from 'react';
import { type ActuatorId, isMotor } from '#core/airframe/actuators.ts';
import { type Airframe, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import type { Attitude } from '#core/calibration/poses.ts';
import { CraftTop, paintTop } from './CraftTop.tsx';
import { seen } from './held.ts';

interface Props {
  readonly airframe: Airframe;
  /** Half of what the craft may measure on the screen in any attitude, px. */
  readonly radius: number;
  readonly root: RefObject<SVGGElement | null>;
  /** Where its surfaces are found to be moved. */
  readonly parts: RefObject<SVGGElement | null>;
}

interface Point {
  readonly x: number;
  readonly y: number;
}

/** The craft in any attitude: its drawing from above and its fins, each a flat sheet that is turned in space. */
export function CraftHeld({ airframe, radius, root, parts }: Props) {
  const view = useMemo(() => topView(airframe), [airframe]);
  const fins = useMemo(() => airframe.planforms.filter((p) => !p.pair || p.dihedralDeg >= 60), [airframe]);
  const spans = airframe.planforms.filter((p) => p.pair && p.dihedralDeg < 60);
  const scale = (2 * radius) / Math.hypot(widthOf(airframe), view.length + view.ahead);
  const middle = (view.length - view.ahead) / 2;
  const body = Math.max(3, Math.min(airframe.bodyHeightM, airframe.bodyWidthM) * scale);
  const half = Math.max(0, (airframe.lengthM * scale - body) / 2);
  const sheets = fins.flatMap((f) => {
    // Aft and down, from the middle of the craft.
    const at = (aft: number, height: number) =>
      `${((aft - middle) * scale).toFixed(1)} ${(-height * scale).toFixed(1)}`;
    const top = f.upM + (f.pair ? f.spanM / 2 : f.spanM);
    const d = `M${at(f.rootAftM, f.upM)}L${at(f.tipAftM, top)}L${at(f.tipAftM + f.tipChordM, top)}L${at(f.rootAftM + f.rootChordM, f.upM)}Z`;
    return (f.pair ? [-f.rootRightM, f.rootRightM] : [0]).map((right) => ({ d, right: right * scale }));
  });
  const fin = (where: 'before' | 'behind') => (
    <g data-fins={where} fill="var(--sunk)" stroke="var(--ink)" strokeWidth={1.4} strokeLinejoin="round">
      {sheets.map(({ d, right }) => (
        <path key={`${right}${d}`} d={d} data-right={right.toFixed(2)} />
      ))}
    </g>
  );
  return (
    <g ref={root} data-half={half.toFixed(2)}>
      {fin('behind')}
      {/* A wing seen on edge is still as thick as it is. */}
      {spans.map((p) => (
        <line
          key={p.id}
          data-aft={((p.rootAftM + p.rootChordM / 2 - middle) * scale).toFixed(2)}
          data-out={((p.rootRightM + p.spanM / 2) * scale).toFixed(2)}
          stroke="var(--ink)"
          strokeWidth={2.4}
          strokeLinecap="round"
        />
      ))}
      <line data-sheet="body" stroke="var(--ink)" strokeWidth={body + 2} strokeLinecap="round" />
      <g data-sheet="plan">
        <g transform={`translate(0 ${(-middle * scale).toFixed(2)})`}>
          <CraftTop airframe={airframe} scale={scale} root={parts} />
        </g>
      </g>
      {fin('before')}
    </g>
  );
}

/** Farthest that a surface is drawn out of the plane of its wing, px. */
const THROW_PX = 8;
/** Seen more on edge than this, a sheet shows nothing of what lies on it. */
const EDGE = 0.08;

/**
 * Turns a craft that is drawn in hands, and moves its surfaces out of their planes.
 * @param positions share of each surface's throw, trailing edge down or to the left; above 0 for a motor that turns
 */
export function paintHeld(
  root: SVGGElement | null,
  parts: SVGGElement | null,
  attitude: Attitude,
  positions: Readonly<Partial<Record<ActuatorId, number>>>,
): void {
  if (!root) return;
  paintTop(parts, positions);
  const aft = seen(attitude, -1, 0, 0);
  const right = seen(attitude, 0, 1, 0);
  const down = seen(attitude, 0, 0, 1);
  const matrix = (a: Point, b: Point, at: Point = { x: 0, y: 0 }) =>
    `matrix(${[a.x, a.y, b.x, b.y, at.x, at.y].map((v) => v.toFixed(4)).join(' ')})`;
  const sheet = (name: string) => root.querySelector<SVGElement>(`[data-sheet=${name}]`);
  // The top is towards the eye when what is down points away from it; the belly lies in the shade.
  const topSeen = down.away > 0;
  const plan = sheet('plan');
  plan?.setAttribute('transform', matrix(right, aft));
  plan?.setAttribute('style', topSeen ? '' : 'filter: brightness(0.72)');
  // Where a surface goes on the screen, said in the sheet's own directions.
  const det = right.x * aft.y - right.y * aft.x;
  for (const part of parts?.querySelectorAll<SVGElement>('path[data-part][data-live]') ?? []) {
    const id = part.dataset.part as ActuatorId;
    if (isMotor(id)) continue;
    const value = THROW_PX * (positions[id] ?? 0);
    const [x, y] = id === 'rudder' ? [-value * right.x, -value * right.y] : [value * down.x, value * down.y];
    const [u, v] =
      Math.abs(det) < EDGE ? [0, 0] : [(x * aft.y - y * aft.x) / det, (right.x * y - right.y * x) / det];
    part.style.transform = `translate(${u.toFixed(2)}px, ${v.toFixed(2)}px)`;
  }
  for (const fins of root.querySelectorAll<SVGGElement>('[data-fins]')) {
    fins.setAttribute('visibility', (fins.dataset.fins === 'before') === topSeen ? 'visible' : 'hidden');
    for (const fin of fins.querySelectorAll<SVGPathElement>('path')) {
      const out = Number(fin.dataset.right);
      fin.setAttribute('transform', matrix(aft, down, { x: right.x * out, y: right.y * out }));
    }
  }
  for (const span of root.querySelectorAll<SVGLineElement>('line[data-out]')) {
    const [back, out] = [Number(span.dataset.aft), Number(span.dataset.out)];
    for (const [end, side] of [
      ['1', -out],
      ['2', out],
    ] as const) {
      span.setAttribute(`x${end}`, (aft.x * back + right.x * side).toFixed(1));
      span.setAttribute(`y${end}`, (aft.y * back + right.y * side).toFixed(1));
    }
  }
  const half = Number(root.dataset.half);
  const body = sheet('body');
  body?.setAttribute('x1', (-aft.x * half).toFixed(1));
  body?.setAttribute('y1', (-aft.y * half).toFixed(1));
  body?.setAttribute('x2', (aft.x * half).toFixed(1));
  body?.setAttribute('y2', (aft.y * half).toFixed(1));
}
