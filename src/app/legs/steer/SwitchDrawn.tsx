import { SWITCH_PLACES } from '../../drawing/TransmitterInHand.tsx';

/** A switch with what each of its positions asks for, by name, the one that comes first in front. */
export interface SwitchShown {
  readonly channel: number;
  /** us, ascending */
  readonly positions: readonly number[];
  readonly asks: readonly (readonly string[])[];
  /** Where it stands now; -1 where that is not live, or between positions. */
  readonly now: number;
  readonly guessed: boolean;
  /** It turns without steps. */
  readonly dial: boolean;
  /** Where it is drawn; -1 where there is no room. */
  readonly place: number;
}

export interface Picked {
  readonly channel: number;
  readonly position: number;
}

const SLOT = 30;
const FLAG_W = 124;
const FLAG_H = 25;
const GAP = 30;
const HEAD = 18;
const BELOW = 12;
const TOP = -136;

const heightOf = (s: SwitchShown) => HEAD + s.positions.length * GAP + BELOW;

/** Left or right of the drawing, as its place is; those that find none by turns. */
const columnOf = ({ place, channel }: SwitchShown) =>
  (SWITCH_PLACES[place]?.[0] ?? (channel % 2 === 0 ? -1 : 1)) < 0 ? 0 : 1;

/** Room that the flags of all switches need, from the top of the drawing. */
export function flagsHeight(switches: readonly SwitchShown[]): number {
  const columns = [0, 0];
  for (const s of switches) {
    columns[columnOf(s)]! += heightOf(s);
  }
  return Math.max(...columns);
}

interface Props {
  readonly switches: readonly SwitchShown[];
  readonly picked: Picked | null;
  readonly onPick: (picked: Picked) => void;
  readonly width: number;
}

/** Switches in their slots, each with a line from every position to the flag of what it asks for. */
export function SwitchDrawn({ switches, picked, onPick, width }: Props) {
  const next = [TOP, TOP];
  return switches.map((sw) => {
    const column = columnOf(sw);
    const side = column === 0 ? -1 : 1;
    const top = next[column]!;
    next[column]! += heightOf(sw);
    const place = SWITCH_PLACES[sw.place];
    const last = sw.positions.length - 1;
    const at = (t: number): readonly [number, number] | null => {
      if (!place) return null;
      const [cx, cy, lean] = place;
      const a = (lean * Math.PI) / 180;
      return [cx + SLOT * (t - 0.5) * Math.sin(a), cy - SLOT * (t - 0.5) * Math.cos(a)];
    };
    const near = (side * width) / 2;
    const flagX = near - side * FLAG_W;
    const [from, to] = [at(0), at(1)];
    const lever = sw.now < 0 ? null : at(sw.now / last);
    return (
      <g key={sw.channel}>
        <text
          x={near}
          y={top + 8}
          textAnchor={side < 0 ? 'start' : 'end'}
          fontSize={13}
          fontWeight={600}
          fill="var(--ink)"
        >
          channel {sw.channel}
          <tspan fontWeight={400} fill="var(--soft)">
            {sw.guessed ? ', flick it once' : sw.dial ? ', a dial' : ''}
          </tspan>
        </text>
        {sw.positions.map((us, p) => {
          const y = top + HEAD + p * GAP;
          const lit = p === sw.now;
          const spot = at(p / last);
          const names = sw.asks[p]!;
          return (
            <g key={us}>
              {spot && (
                <path
                  d={`M${spot[0]} ${spot[1]}C${spot[0] + side * 40} ${spot[1] - 14} ${flagX - side * 50} ${y + FLAG_H / 2} ${flagX} ${y + FLAG_H / 2}`}
                  fill="none"
                  stroke={lit ? 'var(--lake)' : 'var(--contour)'}
                  strokeWidth={lit ? 2.2 : 1.2}
                />
              )}
              <Flag
                x={flagX}
                y={y}
                side={side}
                names={names}
                says={`Channel ${sw.channel}, ${sw.dial ? 'part' : 'position'} ${p + 1} of ${last + 1}: ${names.length === 0 ? 'nothing more' : names.join(', ')}${lit ? ', it stands here' : ''}`}
                lit={lit}
                picked={picked?.channel === sw.channel && picked.position === p}
                onPick={() => onPick({ channel: sw.channel, position: p })}
              />
            </g>
          );
        })}
        {from && to && (
          <>
            <path
              d={`M${from[0]} ${from[1]}L${to[0]} ${to[1]}`}
              stroke="var(--ink)"
              strokeWidth={15}
              strokeLinecap="round"
            />
            <path
              d={`M${from[0]} ${from[1]}L${to[0]} ${to[1]}`}
              stroke="var(--sheet)"
              strokeWidth={12}
              strokeLinecap="round"
            />
            {sw.positions.map((us, p) => {
              const [x, y] = at(p / last)!;
              return <circle key={us} cx={x} cy={y} r={1.6} fill="var(--contour)" />;
            })}
          </>
        )}
        {lever && (
          <circle
            cx={lever[0]}
            cy={lever[1]}
            r={6.5}
            fill="var(--lake)"
            stroke="var(--sheet)"
            strokeWidth={1.6}
          />
        )}
      </g>
    );
  });
}

/** A pennant with what is asked for; picked, it is opened below. */
function Flag({
  x,
  y,
  side,
  names,
  says,
  lit,
  picked,
  onPick,
}: {
  readonly x: number;
  readonly y: number;
  readonly side: number;
  readonly names: readonly string[];
  readonly says: string;
  readonly lit: boolean;
  readonly picked: boolean;
  readonly onPick: () => void;
}) {
  const w = side * FLAG_W;
  const none = names.length === 0;
  return (
    <g
      role="button"
      tabIndex={0}
      aria-label={says}
      aria-pressed={picked}
      className="cursor-pointer"
      onClick={onPick}
      onKeyDown={(e) => {
        if (e.key !== 'Enter' && e.key !== ' ') return;
        e.preventDefault();
        onPick();
      }}
    >
      <path
        d={`M${x} ${y}h${w}l${-side * 8} ${FLAG_H / 2}l${side * 8} ${FLAG_H / 2}h${-w}z`}
        fill={lit ? 'var(--lake)' : 'var(--sheet)'}
        stroke={picked ? 'var(--forest)' : lit ? 'var(--lake)' : 'var(--contour)'}
        strokeWidth={picked ? 2.6 : 1.3}
        strokeDasharray={none && !picked ? '3 3' : undefined}
      />
      <text
        x={x + w / 2 - side * 3}
        y={y + 17}
        textAnchor="middle"
        fontSize={14}
        fontWeight={none ? 400 : 500}
        fill={lit ? 'var(--sheet)' : none ? 'var(--soft)' : 'var(--ink)'}
      >
        {none ? 'nothing more' : names[0]}
        {names.length > 1 ? ` +${names.length - 1}` : ''}
      </text>
    </g>
  );
}
