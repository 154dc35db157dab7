import type { OutputPad } from '#core/board/model.ts';
import type { SelfTest } from '#core/wire/messages.ts';

/** Drawing units to a millimetre; the widest board then fills the drawing. */
export const SCALE = 6.9;
export const LEFT = 20;
export const TOP = 128;
const PAD = 17;

/** How a wire is drawn: pulses, frames, a serial pair, a bus. Colour and line style both tell them apart. */
export const strokes = {
  pulses: { stroke: 'var(--forest)', strokeDasharray: undefined },
  frames: { stroke: 'var(--roll)', strokeDasharray: '7 3' },
  software: { stroke: 'var(--yaw)', strokeDasharray: '2 3' },
  bus: { stroke: 'var(--amber)', strokeDasharray: undefined },
} as const;

export interface Held {
  readonly text: string;
  readonly style: keyof typeof strokes;
}

/** Pads of one timer, which all carry the same. */
export function TimerBar({
  pads,
  name,
  what,
  x,
  y,
}: {
  readonly pads: readonly OutputPad[];
  readonly name: string;
  readonly what: string;
  readonly x: (mm: number) => number;
  readonly y: (mm: number) => number;
}) {
  const from = x(Math.min(...pads.map((p) => p.xMm))) - 9;
  const to = x(Math.max(...pads.map((p) => p.xMm))) + 9;
  const at = y(pads[0]!.yMm) + 16;
  const middle = (from + to) / 2;
  const short = what
    .replace('pulses at ', '')
    .replace('a port made in software at', 'port,')
    .replace('a pulse train coming in', 'train in');
  return (
    <g>
      <title>{`${name}: ${what}`}</title>
      <path d={`M${from} ${at}H${to}`} stroke="var(--contour)" strokeWidth={2} />
      <text x={middle} y={at + 14} textAnchor="middle" fontSize={11} fill="var(--soft)">
        {pads.length > 1 ? name : name.replace('timer ', 't')}
      </text>
      <text
        x={middle}
        y={at + 27}
        textAnchor="middle"
        fontSize={11}
        className="num"
        fill={what === 'free' ? 'var(--faint)' : what.startsWith('taken') ? 'var(--amber)' : 'var(--ink)'}
      >
        {short}
      </text>
    </g>
  );
}

export function Output({
  pad,
  held,
  caught,
  computing,
  x,
  y,
}: {
  readonly pad: OutputPad;
  readonly held: Held | undefined;
  /** A wire let go now would end here. */
  readonly caught: boolean;
  /** What goes where is not known yet. */
  readonly computing: boolean;
  readonly x: number;
  readonly y: number;
}) {
  const style = held ? strokes[held.style] : null;
  return (
    <g>
      {style && <path d={`M${x} ${y - PAD / 2}V${TOP - 22}`} strokeWidth={1.8} fill="none" {...style} />}
      <rect
        x={x - PAD / 2}
        y={y - PAD / 2}
        width={PAD}
        height={PAD}
        rx={3}
        fill="var(--sheet)"
        stroke={caught ? 'var(--forest)' : (style?.stroke ?? 'var(--contour)')}
        strokeWidth={caught ? 3 : 1.4}
      />
      <text x={x} y={y + 4} textAnchor="middle" fontSize={pad.pad.length > 2 ? 9.5 : 10.5} className="num">
        {pad.pad}
      </text>
      <text
        transform={`translate(${x + 4} ${TOP - 27}) rotate(-48)`}
        fontSize={12.5}
        fill={held ? 'var(--ink)' : 'var(--faint)'}
      >
        {held?.text ?? (computing ? '…' : 'free')}
      </text>
    </g>
  );
}

/** What comes in at a port, in a word or two. */
const heardAtPort: Readonly<Record<SelfTest['items'][number]['state'], string>> = {
  answers: 'frames',
  garbage: 'garbage',
  silent: 'nothing',
  crossed: 'swapped',
  missing: '',
  full: '',
};

/** A port's RX and TX, each to the other of the device: the wires cross. */
export function PortPair({
  name,
  what,
  wired,
  heard,
  caught,
  x,
  y,
}: {
  readonly name: string;
  readonly what: string;
  readonly wired: boolean;
  readonly heard: SelfTest['items'][number]['state'] | undefined;
  readonly caught: boolean;
  readonly x: number;
  readonly y: number;
}) {
  const [rx, tx] = [x - 11, x + 11];
  const foot = y + 46;
  const pad = (at: number, to: number, text: string) => (
    <g key={`${text}${to}`}>
      <rect
        x={at - 9}
        y={to - 7}
        width={18}
        height={14}
        rx={3}
        fill="var(--sheet)"
        stroke={caught ? 'var(--forest)' : wired ? 'var(--lake)' : 'var(--contour)'}
        strokeWidth={caught ? 2.6 : 1.3}
      />
      <text x={at} y={to + 3.5} textAnchor="middle" fontSize={9.8}>
        {text}
      </text>
    </g>
  );
  return (
    <g>
      {/* The whole pair can be taken, not only its strokes. */}
      <rect x={x - 22} y={y - 22} width={44} height={32} fill="transparent" />
      <text x={x} y={y - 14} textAnchor="middle" fontSize={11} fill="var(--soft)">
        {name}
      </text>
      {heard && (
        <text
          x={x}
          y={y - 27}
          textAnchor="middle"
          fontSize={10.5}
          fill={heard === 'answers' ? 'var(--forest)' : 'var(--amber)'}
        >
          {heardAtPort[heard]}
        </text>
      )}
      {wired && (
        <>
          <path
            d={`M${rx} ${y + 7}C${rx} ${y + 24} ${tx} ${y + 22} ${tx} ${foot - 7}`}
            fill="none"
            stroke="var(--lake)"
            strokeWidth={1.8}
          />
          <path
            d={`M${tx} ${y + 7}C${tx} ${y + 24} ${rx} ${y + 22} ${rx} ${foot - 7}`}
            fill="none"
            stroke="var(--pitch)"
            strokeWidth={1.8}
            strokeDasharray="5 3"
          />
        </>
      )}
      {pad(rx, y, 'RX')}
      {pad(tx, y, 'TX')}
      {wired && pad(rx, foot, 'RX')}
      {wired && pad(tx, foot, 'TX')}
      <text
        transform={`translate(${x - 4} ${wired ? foot + 20 : y + 24}) rotate(24)`}
        fontSize={12}
        fill={what === 'free' ? 'var(--faint)' : 'var(--ink)'}
      >
        {what}
      </text>
    </g>
  );
}
