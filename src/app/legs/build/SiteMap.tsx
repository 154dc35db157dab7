import { useRef } from 'react';
import { latitudeAt, longitudeAt, type Place } from '#core/navigation/earth.ts';
import type { Site } from '#core/site/site.ts';
import { SiteGround } from '../../drawing/SiteGround.tsx';
import { siteFrame } from '../../drawing/siteFrame.ts';
import { dragOn, pointOn } from '../../ui/dragOn.ts';

interface Props {
  readonly site: Site;
  /** Home was put elsewhere; null where it stays. */
  readonly onHome: ((place: Place) => void) | null;
}

const STEP_M = 25;
const DIGITS = 6;
const short = (p: Place): Place => ({
  lat: Number(p.lat.toFixed(DIGITS)),
  lon: Number(p.lon.toFixed(DIGITS)),
});

/** The site from above, with home as a mark that can be put elsewhere. */
export function SiteMap({ site, onHome }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const mark = useRef<SVGGElement>(null);
  const frame = siteFrame(site);
  const [x, y] = frame.home;
  const km = 1000 / frame.unitM;
  return (
    <svg
      ref={svg}
      viewBox={frame.viewBox}
      className={`max-h-[420px] w-full rounded-[4px] border border-line ${frame.sea ? 'bg-sea' : 'bg-sheet'}`}
      aria-label={`Map of ${site.name}`}
    >
      <SiteGround site={site} />
      <g transform={`translate(${frame.width - km - 4} ${frame.height - 3})`} aria-hidden="true">
        <path d={`M0 -.8V0H${km}V-.8`} fill="none" stroke="var(--soft)" strokeWidth={0.25} />
        <text x={km / 2} y={-1} fontSize={2.3} textAnchor="middle" className="num" fill="var(--soft)">
          1 km
        </text>
      </g>
      <g
        ref={mark}
        transform={`translate(${x} ${y})`}
        {...(onHome
          ? {
              role: 'button',
              tabIndex: 0,
              'aria-label': `Home: drag it, or move it by ${STEP_M} m with the arrow keys`,
              className: 'cursor-move touch-none',
              // Only the mark follows the hand; the site is changed when it is let go.
              ...dragOn(svg, (p) => mark.current?.setAttribute('transform', `translate(${p.x} ${p.y})`)),
              onPointerUp: (e: React.PointerEvent) => {
                const p = pointOn(svg.current, e);
                if (p && Math.hypot(p.x - x, p.y - y) > 0.3) onHome(short(frame.placeAt(p.x, p.y)));
                else mark.current?.setAttribute('transform', `translate(${x} ${y})`);
              },
              onKeyDown: (e: React.KeyboardEvent) => {
                const by = { ArrowUp: [1, 0], ArrowDown: [-1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }[
                  e.key
                ];
                if (!by) return;
                e.preventDefault();
                const { lat, lon } = site.home;
                onHome(
                  short({
                    lat: latitudeAt(lat, STEP_M * by[0]!),
                    lon: longitudeAt(lat, lon, STEP_M * by[1]!),
                  }),
                );
              },
            }
          : { 'aria-hidden': true })}
      >
        <circle r={2.4} fill="transparent" />
        <path d="M0 -1.500L1.500 0 0 1.500-1.500 0Z" fill="var(--forest)" />
        <text x={2.2} y={0.8} fontSize={2.3} fill="var(--forest)" fontWeight={600}>
          home
        </text>
      </g>
    </svg>
  );
}
