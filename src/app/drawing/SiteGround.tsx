import { memo } from 'react';
import type { Site } from '#core/site/site.ts';
import { siteFrame } from './siteFrame.ts';

/** Where no ground is known, rings about home give the scale. */
const RINGS_KM = [1, 2, 4];

/** A site's ground with what stands on it and what it is called: the bottom of every map. */
export const SiteGround = memo(function SiteGround({
  site,
  zoom = 1,
  shown,
}: {
  readonly site: Site;
  /** Letters and lines are that much finer, where the map is drawn so much larger. */
  readonly zoom?: number;
  /** What of the map is seen: names beyond are left out. All of it when left out. */
  readonly shown?: {
    readonly left: number;
    readonly top: number;
    readonly width: number;
    readonly height: number;
  };
}) {
  const frame = siteFrame(site);
  const { sea } = frame;
  return (
    <g aria-hidden="true">
      {!sea && <rect width={frame.width} height={frame.height} fill="var(--sheet)" />}
      {!site.terrain.known &&
        RINGS_KM.map((km) => {
          const r = (1000 * km) / frame.unitM;
          const [x, y] = frame.home;
          return (
            <g key={km}>
              <circle cx={x} cy={y} r={r} fill="none" stroke="var(--line)" strokeWidth={0.2 / zoom} />
              <text
                x={x + r + 0.6 / zoom}
                y={y + 0.8 / zoom}
                fontSize={2.2 / zoom}
                className="num"
                fill="var(--faint)"
              >
                {km} km
              </text>
            </g>
          );
        })}
      {frame.contours.map((c, i) =>
        i === 0 && sea ? (
          <path key={c.level} d={c.path} fill="var(--sheet)" stroke="var(--lake)" strokeWidth={0.3 / zoom} />
        ) : (
          <path
            key={c.level}
            d={c.path}
            fill="var(--contour)"
            fillOpacity={0.05}
            stroke="var(--contour)"
            strokeWidth={(c.main ? 0.26 : 0.13) / zoom}
          />
        ),
      )}
      {site.obstacles.map((o) => {
        const [x, y] = frame.at(o);
        return (
          <g key={`${o.name} ${o.lat} ${o.lon}`} transform={`translate(${x} ${y})`}>
            <circle r={Math.max(0.5, o.radiusM / frame.unitM)} fill="var(--amber-wash)" />
            <path
              d="M-.7 1H.7M0 1V-1.400M-.5 -.9L0 -1.400 .5 -.9"
              fill="none"
              stroke="var(--amber)"
              strokeWidth={0.3}
              transform={`scale(${1 / zoom})`}
            />
          </g>
        );
      })}
      <g fontSize={2.5 / zoom} fill="var(--soft)" fontStyle="italic" textAnchor="middle">
        {site.places.map((p) => {
          const [x, y] = frame.at(p);
          if (shown && !(x > shown.left && x < shown.left + shown.width)) return null;
          if (shown && !(y > shown.top + 2.5 / zoom && y < shown.top + shown.height)) return null;
          return (
            <text key={`${p.name} ${p.lat} ${p.lon}`} x={x} y={y}>
              {p.name}
            </text>
          );
        })}
        {!site.terrain.known && (
          <text x={frame.width / 2} y={6}>
            the ground is not known here
          </text>
        )}
      </g>
    </g>
  );
});
