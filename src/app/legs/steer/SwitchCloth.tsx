import { type ModeId, modeName } from '#core/modes/modes.ts';
import { askedIn, type SwitchInput } from '#core/modes/switchMap.ts';

/** A switch in the cloth: its positions with what they ask for. */
export interface Thread {
  readonly input: SwitchInput;
  /** Of each position, a bit a mode. */
  readonly masks: readonly number[];
  /** Where it stands now; -1 where nobody knows. */
  readonly now: number;
}

interface Props {
  /** The switch across, and those along; every combination is a crossing. */
  readonly across: Thread;
  readonly along: readonly Thread[];
  readonly decide: (mask: number) => ModeId;
}

const LEFT = 150;
const WIDTH = 728;
const HEAD = 44;
const ROW = 40;
const BAND = 22;
/** More columns than this are too narrow to tell apart. */
export const MOST_COLUMNS = 18;

interface Column {
  readonly mask: number;
  readonly positions: readonly number[];
  readonly now: boolean;
}

function columnsOf(along: readonly Thread[]): readonly Column[] {
  let columns: readonly Column[] = [{ mask: 0, positions: [], now: true }];
  for (const thread of along)
    columns = columns.flatMap((c) =>
      thread.masks.map((mask, p) => ({
        mask: c.mask | mask,
        positions: [...c.positions, p],
        now: c.now && thread.now === p,
      })),
    );
  return columns;
}

/**
 * All combinations as a cloth: a thread along for each position of some switches, a band across for each position of another; at a
 * crossing the one whose mode wins lies above. A band that asks for nothing runs below all.
 */
export function SwitchCloth({ across, along, decide }: Props) {
  const columns = columnsOf(along);
  const step = (WIDTH - LEFT - 10) / columns.length;
  const thread = Math.min(30, 0.5 * step);
  const x = (c: number) => LEFT + (c + 0.5) * step;
  const y = (r: number) => HEAD + (r + 0.5) * ROW;
  const end = HEAD + across.masks.length * ROW;
  const small = step < 74;
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${end + 12}`}
      className="mt-2 w-full min-w-[640px]"
      role="img"
      aria-label={`Which mode wins in each of ${columns.length * across.masks.length} combinations`}
    >
      {columns.map((c, k) => (
        <g key={c.positions.join()}>
          <text
            x={x(k)}
            y={small ? HEAD - 24 + 12 * (k % 2) : HEAD - 10}
            textAnchor="middle"
            fontSize={small ? 11 : 13}
            fontWeight={c.now ? 600 : 400}
            fill={c.now ? 'var(--lake)' : 'var(--soft)'}
          >
            {modeName(decide(c.mask))}
          </text>
          <ThreadMark x={x(k) - thread / 2} y={HEAD} w={thread} h={end - HEAD} mode={decide(c.mask)} />
        </g>
      ))}
      {across.masks.map((mask, r) => {
        const own = decide(mask);
        const asks = mask !== 0;
        const now = across.now === r;
        return (
          <g key={across.input.positions[r]}>
            <text
              x={LEFT - 14}
              y={y(r) + 5}
              textAnchor="end"
              fontSize={13}
              fontWeight={now ? 600 : 400}
              fill={now ? 'var(--lake)' : 'var(--soft)'}
            >
              {asks ? modeName(askedIn(mask)[0]!) : 'nothing more'}
            </text>
            <path
              d={`M${LEFT} ${y(r)}H${WIDTH - 8}`}
              stroke={asks ? 'var(--contour)' : 'var(--line)'}
              strokeDasharray={asks ? undefined : '2 4'}
              strokeWidth={1.2}
            />
            {columns.map((c, k) => {
              const winner = decide(mask | c.mask);
              // Above lies whose own mode it is.
              const above = asks && winner === own && winner !== decide(c.mask);
              return (
                <g key={c.positions.join()}>
                  {above && (
                    <ThreadMark
                      x={x(k) - step / 2}
                      y={y(r) - BAND / 2}
                      w={step + 0.5}
                      h={BAND}
                      mode={winner}
                      across
                    />
                  )}
                  {now && c.now && (
                    <rect
                      x={x(k) - thread / 2 - 5}
                      y={y(r) - BAND / 2 - 5}
                      width={thread + 10}
                      height={BAND + 10}
                      rx={3}
                      fill="none"
                      stroke="var(--lake)"
                      strokeWidth={2.2}
                    />
                  )}
                  <title>{`${modeName(winner)} wins`}</title>
                </g>
              );
            })}
          </g>
        );
      })}
    </svg>
  );
}

/** How much a mode does by itself, from the sticks alone to the way home: that is how close its thread is woven. */
const closeness: Readonly<Record<ModeId, number>> = {
  manual: 0,
  rate: 1,
  horizon: 1,
  level: 2,
  height: 3,
  'as-armed': 3,
  'from-home': 3,
  course: 3,
  hover: 4,
  position: 4,
  loiter: 4,
  route: 4,
  launch: 4,
  return: 5,
};

const LINES = 6;

/** A piece of a thread: lines along it, the closer the more the mode does by itself; the way home is solid. */
function ThreadMark({
  x,
  y,
  w,
  h,
  mode,
  across = false,
}: {
  readonly x: number;
  readonly y: number;
  readonly w: number;
  readonly h: number;
  readonly mode: ModeId;
  readonly across?: boolean;
}) {
  const close = closeness[mode];
  const color = close >= 5 ? 'var(--forest)' : close >= 3 ? 'var(--lake)' : 'var(--contour)';
  const lines = close >= 5 ? 0 : 1 + Math.round((close * LINES) / 5);
  return (
    <g>
      <rect
        x={x}
        y={y}
        width={w}
        height={h}
        fill={close >= 5 ? color : across ? 'var(--sheet)' : 'var(--sunk)'}
        stroke={across ? 'none' : 'var(--line)'}
      />
      {Array.from({ length: lines }, (_, k) => {
        const t = (k + 1) / (lines + 1);
        return (
          <path
            key={t}
            d={across ? `M${x} ${y + t * h}h${w}` : `M${x + t * w} ${y}v${h}`}
            stroke={color}
            strokeWidth={across ? 1.8 : 1.4}
          />
        );
      })}
    </g>
  );
}
