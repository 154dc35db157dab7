import type { SwitchedMode } from '#core/modes/modes.ts';
import { SWITCH_PLACES } from '../../drawing/TransmitterInHand.tsx';

/** Something that a position of a switch asks for. */
export interface Ask {
  readonly id: 'arm' | `mode.${SwitchedMode}`;
  readonly name: string;
  readonly why: string;
  /** Receiver channel of its switch; 0 for none. */
  readonly channel: number;
  readonly from: number;
  readonly to: number;
}

/** One switch: a channel with all that it asks for, from its short pulse to its long one. */
export interface Switch {
  readonly channel: number;
  readonly asks: readonly Ask[];
  /** Some position of it asks for nothing. */
  readonly idle: boolean;
}

const LEAST_US = 900;
const MOST_US = 2100;
const share = (us: number) => Math.min(1, Math.max(0, (us - LEAST_US) / (MOST_US - LEAST_US)));

/** The switches of a transmitter by the channels that are set, in their order. */
export function switchesOf(asks: readonly Ask[]): readonly Switch[] {
  const channels = [...new Set(asks.map((a) => a.channel))].filter((c) => c > 0).sort((a, b) => a - b);
  return channels.map((channel) => {
    const of = asks.filter((a) => a.channel === channel).sort((a, b) => a.from - b.from);
    let reached = 1000;
    let idle = false;
    for (const { from, to } of of) {
      if (from > reached + 1) idle = true;
      reached = Math.max(reached, to);
    }
    return { channel, asks: of, idle: idle || reached < 2000 };
  });
}

const SLOT = 30;
const FLAG_W = 124;
const FLAG_H = 25;
const GAP = 30;
/** Beyond so many there is no place on the drawing; their flags stand below the others all the same. */
const PLACES = SWITCH_PLACES.length;

interface Props {
  readonly switches: readonly Switch[];
  readonly channels: readonly number[] | null;
  readonly picked: Ask['id'];
  readonly onPick: (id: Ask['id']) => void;
  readonly width: number;
}

/** Switches in their slots, each with a line from every position to the flag of what it asks for. */
export function SwitchDrawn({ switches, channels, picked, onPick, width }: Props) {
  const next = { left: -136, right: -136 };
  return switches.slice(0, PLACES).map((sw, i) => {
    const [cx, cy, lean] = SWITCH_PLACES[i]!;
    const side = cx < 0 ? -1 : 1;
    const column = side < 0 ? 'left' : 'right';
    const top = next[column];
    const rows = sw.asks.length + (sw.idle ? 1 : 0);
    next[column] += 22 + rows * GAP + 8;
    const us = channels?.[sw.channel - 1] ?? null;
    const a = (lean * Math.PI) / 180;
    const at = (t: number) => [cx + SLOT * (t - 0.5) * Math.sin(a), cy - SLOT * (t - 0.5) * Math.cos(a)];
    const near = (side * width) / 2;
    const flagX = near - side * FLAG_W;
    const now = us === null ? [] : sw.asks.filter((x) => us >= x.from && us <= x.to);
    const [x0, y0] = at(0);
    const [x1, y1] = at(1);
    const lever = us === null ? null : at(share(us));
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
            {us === null ? ', not live' : `, ${us.toFixed(0)} µs`}
          </tspan>
        </text>
        {sw.asks.map((ask, k) => {
          const [px, py] = at(share((ask.from + Math.min(ask.to, MOST_US)) / 2));
          const y = top + 18 + k * GAP;
          const lit = now.includes(ask);
          return (
            <g key={ask.id}>
              <path
                d={`M${px} ${py}C${px! + side * 40} ${py! - 14} ${flagX - side * 50} ${y + FLAG_H / 2} ${flagX} ${y + FLAG_H / 2}`}
                fill="none"
                stroke={lit ? 'var(--lake)' : 'var(--contour)'}
                strokeWidth={lit ? 2.2 : 1.2}
              />
              <Flag
                x={flagX}
                y={y}
                side={side}
                name={ask.name}
                says={`${ask.name}: channel ${sw.channel}, ${ask.from} to ${ask.to} µs${lit ? ', asked for now' : ''}`}
                lit={lit}
                picked={picked === ask.id}
                onPick={() => onPick(ask.id)}
              />
            </g>
          );
        })}
        {sw.idle && (
          <text
            x={flagX + side * 10}
            y={top + 18 + sw.asks.length * GAP + 14}
            textAnchor={side < 0 ? 'end' : 'start'}
            fontSize={13}
            fill={us !== null && now.length === 0 ? 'var(--lake)' : 'var(--soft)'}
          >
            {us !== null && now.length === 0 ? 'now: nothing more' : 'else nothing more'}
          </text>
        )}
        <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke="var(--ink)" strokeWidth={15} strokeLinecap="round" />
        <path d={`M${x0} ${y0}L${x1} ${y1}`} stroke="var(--sheet)" strokeWidth={12} strokeLinecap="round" />
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
  name,
  says,
  lit,
  picked,
  onPick,
}: {
  readonly x: number;
  readonly y: number;
  readonly side: number;
  readonly name: string;
  readonly says: string;
  readonly lit: boolean;
  readonly picked: boolean;
  readonly onPick: () => void;
}) {
  const w = side * FLAG_W;
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
      />
      <text
        x={x + w / 2 - side * 3}
        y={y + 17}
        textAnchor="middle"
        fontSize={14}
        fontWeight={500}
        fill={lit ? 'var(--sheet)' : 'var(--ink)'}
      >
        {name}
      </text>
    </g>
  );
}
