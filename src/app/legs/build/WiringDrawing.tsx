import { type PointerEvent, useRef, useState } from 'react';
import { type Abilities, outputAbilities, portAbilities, spotAbilities } from '#core/board/abilities.ts';
import { deviceNames } from '#core/board/deviceKinds.ts';
import { title } from '#core/board/explain.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { WireEnd } from '#core/board/placing.ts';
import type { Assignment } from '#core/board/solve.ts';
import { needsFrames } from '#core/board/wishes.ts';
import { formatQuantity } from '#core/units/units.ts';
import type { SelfTest } from '#core/wire/messages.ts';
import { useApp } from '../../store/store.ts';
import { pointOn } from '../../ui/dragOn.ts';
import { type Held, LEFT, Output, PortPair, SCALE, strokes, TimerBar, TOP } from './WiringPads.tsx';

/** What each output carries. */
function held(assignment: Assignment | null): ReadonlyMap<number, Held> {
  const map = new Map<number, Held>();
  for (const { wish, output } of assignment?.outputs ?? [])
    map.set(output, { text: wish.name, style: needsFrames(wish.kind) ? 'frames' : 'pulses' });
  for (const { wish, outputs } of assignment?.serial ?? [])
    outputs.forEach((output, k) => {
      const way = outputs.length > 1 ? (k === 0 ? ' TX' : ' RX') : '';
      map.set(output, { text: `${deviceNames[wish.device]}${way}`, style: 'software' });
    });
  return map;
}

/** How far from a pad a wire may be let go, in drawing units. */
const CATCH = 26;

/** The board to scale with every wire: outputs along the top, ports along the foot, buses at the right. */
export function WiringDrawing({
  board,
  assignment,
  offered,
  linkPort,
  heard,
  onMove = null,
}: {
  readonly board: BoardModel;
  readonly assignment: Assignment | null;
  /** It is how the offer would be wired, not what was asked for. */
  readonly offered: boolean;
  readonly linkPort: string | undefined;
  /** What the board hears at its ports, where it is on the cable. */
  readonly heard?: ReadonlyMap<string, SelfTest['items'][number]['state']>;
  /** A wire was drawn from one place to another; null where the wires are not to be moved. */
  readonly onMove?: ((from: WireEnd, to: WireEnd) => void) | null;
}) {
  const root = useRef<SVGSVGElement>(null);
  const units = useApp((s) => s.ui.units);
  const inMm = (mm: number) => formatQuantity(mm, 'mm', units);
  const [looked, setLooked] = useState<Abilities | null>(null);
  const look = (of: Abilities) => ({
    onPointerEnter: () => setLooked(of),
    onFocus: () => setLooked(of),
    tabIndex: 0,
    role: 'img',
    'aria-label': `${of.name}: could be ${of.could.join(', ')}. ${of.limits}. ${of.power}.`,
  });
  const [drag, setDrag] = useState<{ from: WireEnd; x0: number; y0: number; x: number; y: number } | null>(
    null,
  );
  const x = (mm: number) => LEFT + mm * SCALE;
  const y = (mm: number) => TOP + mm * SCALE;
  const on = held(assignment);
  const height = TOP + board.heightMm * SCALE + 96;
  const used = new Set(assignment?.buses.map((b) => b.bus));
  const takenTimers = new Set(board.buses.filter((b) => used.has(b.name)).map((b) => b.takesTimer));
  const point = (e: PointerEvent) => pointOn(root.current, e)!;
  /** Where a wire let go here would end. */
  const endAt = (from: WireEnd, at: { x: number; y: number }): WireEnd | null => {
    const ends =
      'output' in from
        ? board.outputs.map((o) => ({ end: { output: o.output }, x: x(o.xMm), y: y(o.yMm) }))
        : board.ports
            .filter((p) => p.name !== linkPort)
            .map((p) => ({ end: { port: p.name }, x: x(p.xMm), y: y(p.yMm) }));
    const near = ends
      .map((o) => ({ ...o, far: Math.hypot(o.x - at.x, o.y - at.y) }))
      .sort((a, b) => a.far - b.far)[0];
    return near && near.far < CATCH ? near.end : null;
  };
  const take = (from: WireEnd, x0: number, y0: number) =>
    onMove === null
      ? undefined
      : (e: PointerEvent) => {
          e.currentTarget.setPointerCapture(e.pointerId);
          setDrag({ from, x0, y0, ...point(e) });
        };
  const target = drag && endAt(drag.from, drag);
  const handlers = {
    onPointerMove: (e: PointerEvent) => setDrag((d) => d && { ...d, ...point(e) }),
    onPointerUp: () => {
      if (drag && target && JSON.stringify(target) !== JSON.stringify(drag.from)) onMove?.(drag.from, target);
      setDrag(null);
    },
    onPointerCancel: () => setDrag(null),
  };
  const caught = (end: WireEnd) => target !== null && JSON.stringify(end) === JSON.stringify(target);
  return (
    <>
      <p
        className="min-h-[40px] leading-5 max-w-[640px] text-[13px] text-soft print:hidden"
        aria-hidden="true"
      >
        {looked ? (
          <>
            <b className="font-semibold text-ink">{looked.name}</b> could be {looked.could.join(', ')}.{' '}
            {looked.limits && `${looked.limits[0]!.toUpperCase()}${looked.limits.slice(1)}. `}
            {looked.power}.
          </>
        ) : (
          'Point at a pad to see everything it could be.'
        )}
      </p>
      <svg
        ref={root}
        viewBox={`0 38 548 ${height - 38}`}
        className="min-h-0 w-full max-w-[640px] select-none"
        role="group"
        aria-label={`${title(board)} with its wires`}
      >
        {offered && assignment && (
          <text x={LEFT} y={52} fontSize={12.5} fill="var(--soft)">
            As the offer would be wired:
          </text>
        )}
        <rect
          x={LEFT}
          y={TOP}
          width={board.widthMm * SCALE}
          height={board.heightMm * SCALE}
          rx={8}
          fill="var(--sunk)"
          stroke="var(--ink)"
          strokeWidth={1.4}
        />
        <text
          x={x(board.widthMm / 2)}
          y={y(board.heightMm / 2) + 4}
          textAnchor="middle"
          fontSize={16}
          fontWeight={600}
        >
          {board.name}
        </text>
        <text
          x={x(board.widthMm / 2)}
          y={y(board.heightMm / 2) + 21}
          textAnchor="middle"
          fontSize={12}
          fill="var(--soft)"
        >
          revision {board.revision}, {inMm(board.widthMm)} × {inMm(board.heightMm)}
        </text>
        {board.timers.map((t) => (
          <TimerBar
            key={t.n}
            pads={board.outputs.filter((p) => p.timer === t.n)}
            name={`timer ${t.n}`}
            what={
              takenTimers.has(t.n)
                ? 'taken by CAN'
                : (assignment?.timers.find((a) => a.timer === t.n)?.protocol ?? (assignment ? 'free' : '…'))
            }
            x={x}
            y={y}
          />
        ))}
        {board.outputs.map((p) => (
          <g
            key={p.output}
            {...look(outputAbilities(board, p))}
            {...handlers}
            onPointerDown={on.has(p.output) ? take({ output: p.output }, x(p.xMm), y(p.yMm)) : undefined}
            className={on.has(p.output) && onMove ? 'cursor-grab touch-none' : ''}
          >
            <Output
              pad={p}
              held={on.get(p.output)}
              caught={caught({ output: p.output })}
              computing={assignment === null}
              x={x(p.xMm)}
              y={y(p.yMm)}
            />
          </g>
        ))}
        {board.ports.map((p) => {
          const device = assignment?.serial.find((s) => s.port === p.name)?.wish.device;
          const bus = board.buses.find((b) => b.sharesPort === p.name && used.has(b.name));
          const what =
            p.name === linkPort
              ? 'this link'
              : device
                ? deviceNames[device]
                : bus
                  ? bus.name
                  : assignment
                    ? 'free'
                    : '…';
          return (
            <g
              key={p.name}
              {...look(portAbilities(board, p))}
              {...handlers}
              onPointerDown={device ? take({ port: p.name }, x(p.xMm), y(p.yMm)) : undefined}
              className={device && onMove ? 'cursor-grab touch-none' : ''}
            >
              <PortPair
                heard={heard?.get(p.name)}
                caught={caught({ port: p.name })}
                name={p.name}
                what={what}
                wired={device !== undefined}
                x={x(p.xMm)}
                y={y(p.yMm)}
              />
            </g>
          );
        })}
        {board.buses
          .filter((b) => b.kind !== 'spi')
          .map((b) => {
            const devices =
              assignment?.buses.filter((a) => a.bus === b.name).map((a) => deviceNames[a.wish.device]) ?? [];
            const end = x(board.widthMm);
            return (
              <g key={b.name}>
                <rect
                  x={x(b.xMm) - 13}
                  y={y(b.yMm) - 8}
                  width={26}
                  height={16}
                  rx={3}
                  fill="var(--sheet)"
                  stroke={devices.length > 0 ? 'var(--amber)' : 'var(--contour)'}
                  strokeWidth={1.4}
                />
                {devices.length > 0 && (
                  <path d={`M${x(b.xMm) + 13} ${y(b.yMm)}H${end + 12}`} strokeWidth={1.8} {...strokes.bus} />
                )}
                <text x={x(b.xMm) - 17} y={y(b.yMm) + 4} textAnchor="end" fontSize={11.5} fill="var(--soft)">
                  {b.name}
                </text>
                {devices.map((device, k) => (
                  <text key={`${device}${k}`} x={end + 16} y={y(b.yMm) + 4 + 14 * k} fontSize={12}>
                    {device}
                  </text>
                ))}
              </g>
            );
          })}
        {board.spots.map((s) => (
          <g key={s.name} {...look(spotAbilities(board, s.name))}>
            <rect
              x={x(s.xMm) - 15}
              y={y(s.yMm) - 8}
              width={30}
              height={16}
              rx={3}
              fill="var(--sheet)"
              stroke="var(--contour)"
              strokeWidth={1.3}
            />
            <text x={x(s.xMm)} y={y(s.yMm) + 4} textAnchor="middle" fontSize={10}>
              {s.name}
            </text>
          </g>
        ))}
        {drag && (
          <path
            d={`M${drag.x0} ${drag.y0}L${drag.x} ${drag.y}`}
            stroke={target ? 'var(--forest)' : 'var(--soft)'}
            strokeWidth={2}
            strokeDasharray={target ? undefined : '3 3'}
            pointerEvents="none"
          />
        )}
      </svg>
    </>
  );
}
