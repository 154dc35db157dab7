import { type AxisAnswer, MARGIN_LEAST_DEG } from '#core/answers/answers.ts';
import { formatNumber } from '#core/units/units.ts';

const W = 728;
const Y = 44;
const HIGH = 36;
const GAP = 5;
/** A piece thinner than this is drawn so thick, so that it is seen. */
const THIN = 4;
/** So wide a piece has room for its name. */
const WIDE = 190;
/** Less than this is not worth a piece of its own, degrees. */
const LEAST_DEG = 0.15;

/** What the craft and its gains leave of half a turn, and who spends it: a ribbon of which each part of the loop cuts a piece. */
export function PhaseRibbon({ answer }: { readonly answer: AxisAnswer }) {
  const { crossover: margin, gainLeft, ringsHz } = answer.margin;
  if (!margin)
    return (
      <section aria-label="Delay it bears" className="mt-3 border-line border-t pt-3">
        <h2 className="font-semibold">Delay it bears</h2>
        <p className="text-soft">
          The loop is so weak that no delay makes it ring: what it does comes from the feed-forward.
          {!Number.isNaN(gainLeft) &&
            ` Its gains can be ${formatNumber(gainLeft, 1)} times what they are until it rings, ${formatNumber(ringsHz, 1)} times a second.`}
        </p>
      </section>
    );
  const spenders = margin.shares.filter((s) => s.id !== 'craft' && s.id !== 'gains');
  const pieces = spenders.filter((s) => s.degrees > LEAST_DEG);
  const left = Math.max(0, margin.degrees);
  const whole = left + pieces.reduce((sum, s) => sum + s.degrees, 0);
  const room = W - GAP * pieces.length - 4;
  const scale = room / Math.max(whole, 1);
  const leftWide = left * scale;
  let from = leftWide + GAP;
  const marks = pieces.map((s) => {
    const mark = { ...s, x: from, wide: Math.max(THIN, s.degrees * scale) };
    from += mark.wide + GAP;
    return mark;
  });
  const bound = MARGIN_LEAST_DEG * scale;
  return (
    <section aria-label="Delay it bears" className="mt-3 border-line border-t pt-3">
      <h2 className="font-semibold">Phase at {formatNumber(margin.hz, 2)} Hz, where the loop crosses over</h2>
      <p className="text-soft">
        The craft and its gains leave {formatNumber(whole - Math.max(0, -margin.degrees), 0)}° to spend. Every
        part of the chain cuts a piece off the ribbon
        {margin.degrees <= 0 && (
          <b className="font-semibold text-red">: {formatNumber(-margin.degrees, 0)}° more than there are</b>
        )}
        {margin.degrees > 0 && `; what is left bears ${formatNumber(1000 * margin.delayS, 0)} ms more`}
        {margin.degrees > 0 && gainLeft > 1 && `, or ${formatNumber(gainLeft, 1)} times the gains`}.
      </p>
      <svg
        viewBox={`0 0 ${W} 124`}
        className="mt-1 w-full max-w-[760px]"
        role="img"
        aria-label={`${formatNumber(margin.degrees, 0)} degrees left over; ${pieces.map((s) => `${s.name} ${formatNumber(s.degrees, 1)}`).join(', ')}`}
      >
        {margin.degrees > 0 && (
          <path
            d={`M0 ${Y}H${leftWide - 3}l4 6l-5 6l5 6l-5 6l5 6l-4 6H0l9 ${-HIGH / 2}Z`}
            fill={answer.state === 'well' ? 'var(--forest)' : 'var(--amber)'}
          />
        )}
        {margin.degrees > 0 && leftWide > 120 && (
          <text x={22} y={Y + 25} fontSize={20} fontWeight={600} fill="var(--sheet)" className="num">
            {formatNumber(margin.degrees, 0)}°
            <tspan fontSize={14} fontWeight={400} dx={8}>
              left over
            </tspan>
          </text>
        )}
        {margin.degrees > 0 && leftWide <= 120 && (
          <text x={0} y={Y - 8} fontSize={20} fontWeight={600} fill="var(--amber)" className="num">
            {formatNumber(margin.degrees, 0)}°
            <tspan fontSize={14} fontWeight={400} dx={8}>
              left over
            </tspan>
          </text>
        )}
        <defs>
          <pattern
            id="spent"
            width={7}
            height={7}
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(35)"
          >
            <path d="M0 0V7" stroke="var(--line)" strokeWidth={2} />
          </pattern>
          <pattern id="spent-dots" width={6} height={6} patternUnits="userSpaceOnUse">
            <circle cx={2} cy={2} r={1} fill="var(--contour)" />
          </pattern>
        </defs>
        {marks.map((s, k) => (
          <Piece key={s.id} {...s} dotted={k % 2 === 1} row={k % 4} />
        ))}
        {bound < W && margin.degrees > 0 && (
          <>
            <path
              d={`M${bound} ${Y}v${HIGH + 34}`}
              stroke={bound < leftWide ? 'var(--sheet)' : 'var(--ink)'}
              strokeWidth={2}
              strokeDasharray="2 4"
            />
            <text x={bound} y={Y + HIGH + 40} textAnchor="middle" fontSize={13} fill="var(--soft)">
              at least <tspan className="num">{MARGIN_LEAST_DEG}°</tspan>
            </text>
          </>
        )}
      </svg>
    </section>
  );
}

/** Wide pieces carry their name; that of a narrow one stands above or below it, so that neighbours leave each other room. */
function Piece({
  name,
  degrees,
  x,
  wide,
  dotted,
  row,
}: {
  readonly name: string;
  readonly degrees: number;
  readonly x: number;
  readonly wide: number;
  readonly dotted: boolean;
  readonly row: number;
}) {
  const inside = wide > WIDE;
  const above = row % 2 === 0;
  const off = row < 2 ? 16 : 34;
  const middle = x + wide / 2;
  const atLeft = middle < WIDE;
  return (
    <g>
      <rect x={x} y={Y} width={wide} height={HIGH} fill="var(--paper)" />
      <rect
        x={x}
        y={Y}
        width={wide}
        height={HIGH}
        fill={dotted ? 'url(#spent-dots)' : 'url(#spent)'}
        stroke="var(--contour)"
      />
      {!inside && (
        <path
          d={above ? `M${middle} ${Y}v${4 - off}` : `M${middle} ${Y + HIGH}v${off - 12}`}
          stroke="var(--contour)"
        />
      )}
      <text
        x={inside ? middle : atLeft ? middle + 5 : middle - 5}
        y={inside ? Y + 23 : above ? Y + 8 - off : Y + HIGH + off}
        textAnchor={inside ? 'middle' : atLeft ? 'start' : 'end'}
        fontSize={13}
        stroke="var(--paper)"
        strokeWidth={inside ? 5 : 0}
        paintOrder="stroke"
      >
        {name} <tspan className="num">{formatNumber(degrees, 1)}°</tspan>
      </text>
    </g>
  );
}
