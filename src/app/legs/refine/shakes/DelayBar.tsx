import type { FilterDelay } from '#core/answers/filterChoice.ts';
import { formatNumber } from '#core/units/units.ts';

const W = 470;
const names: Readonly<Record<FilterDelay['id'] | 'loop' | 'pulse', string>> = {
  notch: 'notch',
  tracking: 'tracking',
  'low-pass': 'low-pass',
  loop: 'loop',
  pulse: 'wait for the next pulse',
};

interface Props {
  readonly delays: readonly FilterDelay[];
  /** From a sample to the command it decides, and from there to the next pulse on average, ms. */
  readonly loopMs: number;
  readonly pulseMs: number;
  /** Where it is looked at, Hz. */
  readonly hz: number;
}

/** What lies between gyro and outputs, by how long it takes where the loop crosses over. */
export function DelayBar({ delays, loopMs, pulseMs, hz }: Props) {
  const pieces = [
    ...delays.map((d) => ({ id: d.id, ms: Math.max(0, d.ms) })),
    { id: 'loop' as const, ms: loopMs },
    { id: 'pulse' as const, ms: pulseMs },
  ];
  const whole = pieces.reduce((sum, p) => sum + p.ms, 0);
  const degrees = 0.36 * hz * whole;
  let from = 0;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-x-10 gap-y-3">
      <div>
        <p className="num text-[28px] leading-8">
          {formatNumber(whole, 1)} <small className="font-sans text-[14px]">ms</small>
        </p>
        <p className="text-soft">from the gyro to the outputs</p>
      </div>
      <svg
        viewBox={`0 0 ${W} 52`}
        className="w-full max-w-[470px] flex-1"
        role="img"
        aria-label={pieces.map((p) => `${names[p.id]} ${formatNumber(p.ms, 1)} ms`).join(', ')}
      >
        {pieces.map((p) => {
          const wide = ((W - 2) * p.ms) / whole;
          const at = 1 + from;
          from += wide;
          return (
            <g key={p.id} fontSize={13}>
              <rect
                x={at}
                y={18}
                width={wide}
                height={14}
                fill={
                  p.id === 'notch' || p.id === 'tracking'
                    ? 'var(--forest)'
                    : p.id === 'low-pass'
                      ? 'var(--forest-wash)'
                      : 'var(--sheet)'
                }
                stroke="var(--forest)"
              />
              {wide > widthOf(names[p.id]) && (
                <>
                  <text x={at + wide / 2} y={13} textAnchor="middle" className="num">
                    {formatNumber(p.ms, 1)}
                  </text>
                  <text x={at + wide / 2} y={47} textAnchor="middle" fill="var(--soft)">
                    {names[p.id]}
                  </text>
                </>
              )}
            </g>
          );
        })}
      </svg>
      <p className="w-full text-soft">
        At {formatNumber(hz, 1)} Hz that is{' '}
        <b className="num font-semibold text-ink">{formatNumber(degrees, 1)}°</b> of what the loop may spend
        until it rings.
      </p>
    </div>
  );
}

/** A piece narrower than its name stays without it. */
const widthOf = (name: string): number => 10 + 6.2 * name.length;
