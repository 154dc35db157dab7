import type { Asked, ManoeuvreId } from '#core/answers/outer/manoeuvres.ts';
import { TRACE_S, type Trace } from '#core/answers/outer/trace.ts';
import { DEG } from '#core/math/scalar.ts';
import { formatNumber, formatQuantity, type UnitSystem } from '#core/units/units.ts';

const [W, H] = [236, 128];
const LEFT = 42;
const FLOOR = H - 20;
const TOP = 8;

interface Props {
  readonly id: ManoeuvreId;
  readonly asked: Asked;
  readonly said: Trace | null;
  readonly flown: Trace | null;
  /** Of a circle, m. */
  readonly radius: number;
  readonly units: UnitSystem;
}

/** What was asked and what comes, by time or seen from above. */
export function ManoeuvreFigure(props: Props) {
  return props.id === 'path' || props.id === 'circle' || props.id === 'gusts' ? (
    <FromAbove {...props} />
  ) : (
    <OverTime {...props} />
  );
}

/** What of a trace answers, and how much of it was asked. */
function answering(
  id: ManoeuvreId,
  asked: Asked,
): { readonly of: (t: Trace) => Float64Array; readonly most: number } {
  if (id === 'bank') return { of: (t) => t.bank, most: asked.bank };
  if (id === 'height') return { of: (t) => t.height, most: asked.height };
  return { of: (t) => t.speed, most: asked.speed };
}

function OverTime({ id, asked, said, flown, units }: Props) {
  const { of, most } = answering(id, asked);
  const x = (s: number) => LEFT + ((W - LEFT - 6) * s) / asked.seconds;
  const y = (v: number) => FLOOR - ((FLOOR - TOP) * v) / (1.3 * most);
  const line = (t: Trace) =>
    `M${Array.from(of(t), (v, k) => `${x(k * TRACE_S).toFixed(1)} ${y(Math.max(-0.2 * most, Math.min(1.4 * most, v))).toFixed(1)}`).join('L')}`;
  const until = asked.letGoS > 0 ? asked.letGoS : asked.seconds;
  const unit =
    id === 'bank'
      ? `${formatNumber(most / DEG, 0)}°`
      : formatQuantity(most, id === 'height' ? 'm' : 'm/s', units, 0);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full max-w-[290px]" aria-hidden="true">
      <path d={`M${LEFT} ${FLOOR}H${W - 6}`} stroke="var(--contour)" />
      <path
        d={`M${LEFT} ${y(most)}H${x(until)}${until < asked.seconds ? `V${FLOOR}` : ''}`}
        fill="none"
        stroke="var(--ink)"
        strokeDasharray="3 3"
      />
      <text x={LEFT - 5} y={y(most) + 4} textAnchor="end" fontSize={12.5} className="num" fill="var(--soft)">
        {unit}
      </text>
      <text x={W - 6} y={FLOOR + 15} textAnchor="end" fontSize={12.5} className="num" fill="var(--soft)">
        {formatNumber(asked.seconds, 0)} s
      </text>
      {flown && <path d={line(flown)} fill="none" stroke="var(--lake)" strokeWidth={3.4} opacity={0.55} />}
      {said && <path d={line(said)} fill="none" stroke="var(--forest)" strokeWidth={1.8} />}
    </svg>
  );
}

function FromAbove({ id, asked, said, flown, radius, units }: Props) {
  const all = [said, flown].flatMap((t) => (t ? [t] : []));
  const box = bounds(all, id, radius);
  const scale = Math.min((W - 12) / (box.east[1] - box.east[0]), (H - 22) / (box.north[1] - box.north[0]));
  const x = (east: number) => W / 2 + scale * (east - (box.east[0] + box.east[1]) / 2);
  const y = (north: number) => (H - 8) / 2 - scale * (north - (box.north[0] + box.north[1]) / 2);
  const line = (t: Trace) =>
    `M${Array.from(t.north, (n, k) => place(id, n, t.east[k]!))
      .map(([n, e]) => `${x(e).toFixed(1)} ${y(n).toFixed(1)}`)
      .join('L')}`;
  const bar = niceLength(60 / scale);
  return (
    <svg viewBox={`0 0 ${W} ${H}`} className="w-full max-w-[290px]" aria-hidden="true">
      {id === 'path' && (
        <path d={`M${x(box.east[0])} ${y(0)}H${x(box.east[1])}`} stroke="var(--ink)" strokeDasharray="3 3" />
      )}
      {id === 'circle' && (
        <circle
          cx={x(0)}
          cy={y(0)}
          r={scale * radius}
          fill="none"
          stroke="var(--ink)"
          strokeDasharray="3 3"
        />
      )}
      {id === 'gusts' && <path d={`M${x(0) - 6} ${y(0)}h12M${x(0)} ${y(0) - 6}v12`} stroke="var(--ink)" />}
      {asked.windMps > 0 && (
        <g stroke="var(--soft)" fill="none">
          <path d={`M${W - 14} 6v22m-5 -7l5 7l5 -7`} strokeWidth={1.6} />
        </g>
      )}
      {flown && <path d={line(flown)} fill="none" stroke="var(--lake)" strokeWidth={3.4} opacity={0.55} />}
      {said && <path d={line(said)} fill="none" stroke="var(--forest)" strokeWidth={1.8} />}
      <path d={`M6 ${H - 6}v-4v4h${(scale * bar).toFixed(1)}v-4`} fill="none" stroke="var(--contour)" />
      <text x={scale * bar + 12} y={H - 4} fontSize={12.5} className="num" fill="var(--soft)">
        {formatQuantity(bar, 'm', units, bar < 1 ? 1 : 0)}
      </text>
    </svg>
  );
}

/** A path is drawn lying: it leads to the right. */
const place = (id: ManoeuvreId, north: number, east: number): readonly [number, number] =>
  id === 'path' ? [-east, north] : [north, east];

/** A path's beginning is what is looked at, m. */
const PATH_SHOWN_M = 190;
const LEAST_M = 1;

function bounds(traces: readonly Trace[], id: ManoeuvreId, radius: number) {
  const box = {
    north: [-LEAST_M, LEAST_M] as [number, number],
    east: [-LEAST_M, LEAST_M] as [number, number],
  };
  const take = (north: number, east: number) => {
    box.north = [Math.min(box.north[0], north), Math.max(box.north[1], north)];
    box.east = [Math.min(box.east[0], east), Math.max(box.east[1], east)];
  };
  if (id === 'circle') for (const s of [-1.08, 1.08]) take(s * radius, s * radius);
  for (const t of traces)
    for (let k = 0; k < t.north.length; k++) {
      const [n, e] = place(id, t.north[k]!, t.east[k]!);
      if (id !== 'path' || e < PATH_SHOWN_M) take(n, e);
    }
  return box;
}

function niceLength(about: number): number {
  const size = 10 ** Math.floor(Math.log10(about));
  const lead = about / size;
  return (lead >= 5 ? 5 : lead >= 2 ? 2 : 1) * size;
}
