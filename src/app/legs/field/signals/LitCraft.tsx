import { useMemo, useRef } from 'react';
import { type Airframe, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { type Moment, paintStrip } from '#core/signals/signals.ts';
import { CraftTop } from '../../../drawing/CraftTop.tsx';
import { useFrame } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { lampPlaces } from './lampPlaces.ts';

interface Props {
  readonly airframe: Airframe;
  readonly lamps: number;
  readonly brightness: number;
  /** Shown as a trial; null for what the board does now. */
  readonly tried: Moment | null;
}

const W = 420;
const H = 250;
const ROOM = 26;
/** Light this weak is shown no weaker, so that it is seen on paper. */
const LEAST_SEEN = 0.35;

/** The craft from above with its lamps, as they are lit now. */
export function LitCraft({ airframe, lamps, brightness, tried }: Props) {
  const group = useRef<SVGGElement>(null);
  const began = useRef({ moment: tried, atMs: 0 });
  const own = useMemo(() => new Uint8Array(3 * lamps), [lamps]);
  const places = useMemo(() => lampPlaces(airframe, lamps), [airframe, lamps]);
  const { ahead, length } = useMemo(() => topView(airframe), [airframe]);
  const k = Math.min((W - 2 * ROOM) / widthOf(airframe), (H - 2 * ROOM) / (length + ahead));
  useFrame(() => {
    const g = group.current;
    if (!g) return;
    if (began.current.moment !== tried) began.current = { moment: tried, atMs: performance.now() };
    let lit: Uint8Array = own;
    if (tried) paintStrip(tried, (performance.now() - began.current.atMs) / 1000, brightness, own);
    else lit = live('signals')?.lamps ?? own.fill(0);
    for (let i = 0; i < g.children.length; i++) {
      const [r, gr, b] = [lit[3 * i] ?? 0, lit[3 * i + 1] ?? 0, lit[3 * i + 2] ?? 0];
      const most = Math.max(r, gr, b);
      const lamp = g.children[i] as SVGGElement;
      const color =
        most === 0 ? 'transparent' : `rgb(${[r, gr, b].map((c) => Math.round((255 * c) / most)).join(' ')})`;
      const opacity = most === 0 ? '0' : String(Math.max(LEAST_SEEN, most / 255));
      if (lamp.dataset.lit === color + opacity) continue;
      lamp.dataset.lit = color + opacity;
      for (const part of lamp.querySelectorAll<SVGElement>('[data-glow]')) {
        part.style.fill = color;
        part.style.fillOpacity = part.dataset.glow === 'wide' ? String(0.3 * Number(opacity)) : opacity;
      }
    }
  });
  return (
    <svg
      viewBox={`${-W / 2} 0 ${W} ${H}`}
      className="w-full rounded-[4px] border border-line bg-sunk"
      role="img"
      aria-label={`${airframe.name} from above with its lamps`}
    >
      <g transform={`translate(0 ${(H - k * (length + ahead)) / 2 + k * ahead})`}>
        <g opacity={0.75}>
          <CraftTop airframe={airframe} scale={k} />
        </g>
        <g ref={group}>
          {places.map(([x, y], i) => (
            <g key={i} transform={`translate(${(x * k).toFixed(1)} ${(y * k).toFixed(1)})`}>
              <circle data-glow="wide" r={11} fill="transparent" />
              <circle r={3.6} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={1} />
              <circle data-glow="lamp" r={3} fill="transparent" />
            </g>
          ))}
        </g>
      </g>
    </svg>
  );
}
