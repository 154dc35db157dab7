import type { ToldFit } from '#core/toldBack/fit.ts';
import { sensorOf, type ToldId } from '#core/toldBack/sensors.ts';

interface Props {
  readonly fit: ToldFit;
  readonly chosen: ToldId;
  readonly onChoose: (id: ToldId) => void;
}

const WIDE = 440;
const HIGH = 34;
const TOP = 16;
/** A piece narrower than this carries no name. */
const NAMED = 38;

/** The way back as a gutter that the frames lie in, each as long as the bytes a second that it takes; what is too much stands out over its end. */
export function RoomRibbon({ fit, chosen, onChoose }: Props) {
  const k = WIDE / Math.max(fit.roomPerS, fit.askedPerS);
  const end = fit.roomPerS * k;
  let x = 0;
  return (
    <svg
      viewBox={`-2 0 ${WIDE + 4} 72`}
      className="w-full"
      role="img"
      aria-label={`${Math.ceil(fit.askedPerS)} of ${fit.roomPerS} bytes a second are asked for`}
    >
      <path
        d={`M0 ${TOP - 4}V${TOP + HIGH + 4}H${end}V${TOP - 4}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={1.6}
      />
      {fit.sensors
        .filter((s) => s.bytesPerS > 0)
        .map((s, i) => {
          const wide = s.bytesPerS * k;
          const left = x;
          x += wide;
          const out = left + wide > end + 0.5;
          return (
            // biome-ignore lint/a11y/noStaticElementInteractions: the list beside it does the same by key
            <g key={s.id} className="cursor-pointer" onClick={() => onChoose(s.id)}>
              <rect
                x={left + 1}
                y={TOP}
                width={Math.max(1, wide - 2)}
                height={HIGH}
                rx={2}
                fill={out ? 'var(--amber-wash)' : i % 2 ? 'var(--sunk)' : 'var(--forest-wash)'}
                stroke={s.id === chosen ? 'var(--lake)' : out ? 'var(--amber)' : 'var(--line)'}
                strokeWidth={s.id === chosen ? 1.8 : 1}
              />
              {wide > NAMED && (
                <text
                  x={left + wide / 2}
                  y={TOP + HIGH / 2 + 4}
                  textAnchor="middle"
                  fontSize={12.5}
                  fill="var(--ink)"
                >
                  {sensorOf(s.id).name}
                </text>
              )}
            </g>
          );
        })}
      <text
        x={0}
        y={TOP + HIGH + 20}
        fontSize={12.5}
        className="num"
        fill={fit.share < 1 ? 'var(--amber)' : 'var(--soft)'}
      >
        {Math.ceil(fit.askedPerS)} asked for
      </text>
      <text x={end} y={TOP + HIGH + 20} fontSize={12.5} textAnchor="end" className="num" fill="var(--ink)">
        room for {fit.roomPerS}
      </text>
    </svg>
  );
}
