import { eastOf, northOf } from '#core/navigation/earth.ts';
import { SKYLINE_BEARINGS } from '#core/navigation/skyline.ts';
import type { SatelliteView } from '#core/sensors/satellites.ts';
import type { Site } from '#core/site/site.ts';

const R = 170;
/** The ground is drawn outside the sky, steeper than it is: so much of the rim for each degree, px. */
const RIM_PX = 3.2;
const RIM = 46;

/** Where a direction is seen by somebody who lies on the back, feet to the south: north up, east to the left. */
const at = (azimuthDeg: number, elevationDeg: number): readonly [number, number] => {
  const r = (R * (90 - elevationDeg)) / 90;
  const a = (azimuthDeg * Math.PI) / 180;
  return [-r * Math.sin(a), -r * Math.cos(a)];
};

interface Props {
  readonly satellites: readonly SatelliteView[];
  readonly skyline: ArrayLike<number> | null;
  readonly site: Site | null;
  readonly peaks: Site['places'];
}

/** The sky over the receiver, with the ground round it. */
export function Sky({ satellites, skyline, site, peaks }: Props) {
  const rim = skyline
    ? Array.from({ length: SKYLINE_BEARINGS }, (_, k) => {
        const r = R - Math.min(40, RIM_PX * skyline[k]!);
        const a = (k * 2 * Math.PI) / SKYLINE_BEARINGS;
        return `${(-r * Math.sin(a)).toFixed(1)} ${(-r * Math.cos(a)).toFixed(1)}`;
      }).join('L')
    : null;
  const used = satellites.filter((s) => s.used).length;
  const named = site
    ? peaks
        .map((p) => {
          const north = northOf(site.home.lat, p.lat);
          const east = eastOf(site.home.lat, site.home.lon, p.lon);
          return {
            // Some names end with the height, which is not in the person's units.
            name: p.name.replace(/ \d+ m$/, ''),
            away: Math.hypot(north, east),
            bearing: (Math.atan2(east, north) * 180) / Math.PI,
          };
        })
        .filter((p) => p.away > 800)
    : [];
  const size = R + RIM;
  return (
    <svg
      viewBox={`${-size} ${-size} ${2 * size} ${2 * size}`}
      className="max-h-[max(52vh,390px)] w-full"
      role="img"
      aria-label={`The sky: ${satellites.length} satellites seen, ${used} used`}
    >
      <circle r={R + 18} fill="var(--sunk)" />
      <circle r={R} fill="var(--sheet)" stroke="var(--contour)" />
      {rim && (
        <path
          d={`M${rim}ZM0 ${-R}A${R} ${R} 0 1 0 0 ${R}A${R} ${R} 0 1 0 0 ${-R}Z`}
          fillRule="evenodd"
          fill="var(--sunk)"
          stroke="var(--contour)"
          strokeWidth={1.4}
        />
      )}
      {[30, 60].map((e) => (
        <circle key={e} r={(R * (90 - e)) / 90} fill="none" stroke="var(--contour)" strokeDasharray="1 6" />
      ))}
      <path d="M-6 0H6M0 -6V6" stroke="var(--contour)" />
      {(
        [
          ['north', 0, -R - 26],
          ['south', 0, R + 36],
        ] as const
      ).map(([word, x, y]) => (
        <text key={word} x={x} y={y} fontSize={13} textAnchor="middle" fill="var(--soft)">
          {word}
        </text>
      ))}
      <text
        transform={`translate(${-R - 28} 0) rotate(-90)`}
        fontSize={13}
        textAnchor="middle"
        fill="var(--soft)"
      >
        east
      </text>
      <text
        transform={`translate(${R + 28} 0) rotate(90)`}
        fontSize={13}
        textAnchor="middle"
        fill="var(--soft)"
      >
        west
      </text>
      {named.map((p) => {
        const a = (p.bearing * Math.PI) / 180;
        const [x, y] = [-(R + 8) * Math.sin(a), -(R + 8) * Math.cos(a)];
        const turn = -p.bearing;
        const upright = Math.abs(((p.bearing + 540) % 360) - 180) <= 90;
        return (
          <text
            key={p.name}
            transform={`translate(${x.toFixed(1)} ${y.toFixed(1)}) rotate(${(upright ? turn : turn + 180).toFixed(1)})`}
            y={4}
            fontSize={12}
            textAnchor="middle"
            fill="var(--soft)"
          >
            {p.name}
          </text>
        );
      })}
      {satellites.map((s) => {
        const [x, y] = at(s.azimuthDeg, s.elevationDeg);
        const r = 7 + Math.max(0, Math.min(8, (s.strength - 20) / 3.4));
        return (
          <g key={`${s.system}${s.id}`} transform={`translate(${x.toFixed(1)} ${y.toFixed(1)})`}>
            <title>
              {`${s.system}${s.id}: ${s.elevationDeg.toFixed(0)}° up, ${s.azimuthDeg.toFixed(0)}° from north, ${s.strength.toFixed(0)} dB Hz, ${s.used ? 'used' : 'not used'}`}
            </title>
            <circle
              r={r}
              fill={s.used ? 'var(--forest)' : 'var(--sheet)'}
              stroke="var(--forest)"
              strokeDasharray={s.used ? undefined : '2 2'}
            />
            <text
              y={4.5}
              fontSize={12.5}
              fontWeight={600}
              textAnchor="middle"
              fill={s.used ? 'var(--sheet)' : 'var(--forest)'}
            >
              {s.system}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
