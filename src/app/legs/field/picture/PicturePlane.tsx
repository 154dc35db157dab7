import { type RefObject, useEffect, useRef, useState } from 'react';
import type { OverlayConfig } from '#core/overlay/config.ts';
import { cellAt, columnOf, type ItemId, itemIds, itemName, rowOf } from '#core/overlay/items.ts';
import { itemSize, itemText } from '#core/overlay/itemText.ts';
import type { Placing } from '#core/overlay/place.ts';
import type { VideoSystem } from '#core/overlay/videoSystems.ts';
import type { Site } from '#core/site/site.ts';
import { type Moment, PicturePainter } from './PicturePainter.ts';
import { readable } from './readable.ts';

interface Props {
  readonly site: Site;
  readonly system: VideoSystem;
  readonly config: OverlayConfig;
  readonly placing: Placing;
  readonly moment: Moment;
  readonly wrong: ReadonlySet<ItemId>;
  readonly chosen: ItemId | null;
  /** The one that paints, for whoever plays a flight. */
  readonly painter: RefObject<PicturePainter | null>;
  readonly onChoose: (item: ItemId) => void;
  readonly onPlace: (item: ItemId, cell: number) => void;
}

/** The picture with its items, each of which is dragged or moved by the arrow keys, cell by cell. */
export function PicturePlane(props: Props) {
  const { site, system, config, placing, moment, wrong, chosen, painter, onChoose, onPlace } = props;
  const frame = useRef<HTMLDivElement>(null);
  const below = useRef<HTMLCanvasElement>(null);
  const above = useRef<HTMLCanvasElement>(null);
  const [flat, setFlat] = useState(false);
  /** Where the item that is held is, before it is let go. */
  const [held, setHeld] = useState<{ readonly item: ItemId; readonly cell: number } | null>(null);
  const now = useRef(moment);
  now.current = moment;
  useEffect(() => {
    if (!below.current || !above.current) return;
    const made = new PicturePainter(below.current, above.current, site, site.home, () => setFlat(true));
    painter.current = made;
    const watch = new ResizeObserver(() => made.fit());
    watch.observe(above.current);
    made.paint(now.current);
    return () => {
      watch.disconnect();
      made.end();
      painter.current = null;
    };
  }, [site, painter]);
  const heldMoment = held
    ? {
        ...moment,
        config: {
          ...config,
          layouts: { ...config.layouts, [moment.layout]: { ...placing, [held.item]: held.cell } },
        },
      }
    : moment;
  useEffect(() => painter.current?.paint(heldMoment), [heldMoment, painter]);
  const { columns, rows } = system;
  const within = (item: ItemId, row: number, column: number): number => {
    const size = itemSize(item, config);
    return cellAt(
      Math.max(0, Math.min(rows - size.rows, row)),
      Math.max(0, Math.min(columns - size.columns, column)),
    );
  };
  const cellUnder = (e: { clientX: number; clientY: number }) => {
    const box = frame.current!.getBoundingClientRect();
    return {
      row: Math.floor(((e.clientY - box.top) / box.height) * rows),
      column: Math.floor(((e.clientX - box.left) / box.width) * columns),
    };
  };
  const grabbed = useRef({ row: 0, column: 0 });
  const shown = itemIds.filter((id) => placing[id] >= 0);
  return (
    <div
      ref={frame}
      className="relative w-full overflow-hidden rounded-[4px] bg-[#8fa3a0]"
      style={{ aspectRatio: system.aspect }}
    >
      {flat ? <FlatEye moment={moment} /> : <canvas ref={below} className="absolute inset-0 h-full w-full" />}
      <canvas ref={above} className="absolute inset-0 h-full w-full" />
      {held && <Guides held={held} placing={placing} config={config} system={system} />}
      {shown.map((item) => {
        const cell = held?.item === item ? held.cell : placing[item];
        const size = itemSize(item, config);
        const draws = system.draws(item) === true;
        // A board's own picture is read by eye: what it writes is not known item by item.
        const says = moment.told ? '' : readable(itemText(item, moment.view, config));
        return (
          <button
            key={item}
            type="button"
            data-item={item}
            aria-pressed={item === chosen}
            aria-label={`${itemName(item)}, row ${rowOf(cell) + 1}, column ${columnOf(cell) + 1}${draws ? `${moment.told ? '' : `, shows ${says || 'nothing'}`}` : ', not drawn by this system'}${wrong.has(item) ? ', something is wrong with it' : ''}. Arrows move it, Delete takes it off.`}
            className={`absolute cursor-grab touch-none rounded-[2px] border ${
              wrong.has(item)
                ? 'border-[#ff8a7a] border-dashed bg-[repeating-linear-gradient(135deg,#b3261e66_0_4px,transparent_4px_9px)]'
                : item === chosen
                  ? 'border-white'
                  : 'border-transparent hover:border-white/60'
            } ${item === chosen ? 'outline-2 outline-white outline-offset-1' : ''}`}
            style={{
              left: `${(100 * columnOf(cell)) / columns}%`,
              top: `${(100 * rowOf(cell)) / rows}%`,
              width: `${(100 * size.columns) / columns}%`,
              height: `${(100 * size.rows) / rows}%`,
            }}
            onFocus={() => onChoose(item)}
            onPointerDown={(e) => {
              e.currentTarget.setPointerCapture(e.pointerId);
              e.currentTarget.focus();
              const at = cellUnder(e);
              grabbed.current = { row: at.row - rowOf(cell), column: at.column - columnOf(cell) };
            }}
            onPointerMove={(e) => {
              if (!e.currentTarget.hasPointerCapture(e.pointerId)) return;
              const at = cellUnder(e);
              const next = within(item, at.row - grabbed.current.row, at.column - grabbed.current.column);
              if (next !== cell) setHeld({ item, cell: next });
            }}
            onPointerUp={() => {
              if (held?.item === item && held.cell !== placing[item]) onPlace(item, held.cell);
              setHeld(null);
            }}
            onPointerCancel={() => setHeld(null)}
            onKeyDown={(e) => {
              const by = e.shiftKey ? 5 : 1;
              const step = {
                ArrowLeft: [0, -by],
                ArrowRight: [0, by],
                ArrowUp: [-by, 0],
                ArrowDown: [by, 0],
              }[e.key];
              if (step) {
                e.preventDefault();
                onPlace(item, within(item, rowOf(cell) + step[0]!, columnOf(cell) + step[1]!));
              } else if (e.key === 'Delete' || e.key === 'Backspace') {
                e.preventDefault();
                onPlace(item, -1);
              } else if (e.key === 'Escape' && held) setHeld(null);
            }}
          />
        );
      })}
    </div>
  );
}

/** Lines along which what is held stands in line with something else. */
function Guides({
  held,
  placing,
  config,
  system,
}: {
  readonly held: { readonly item: ItemId; readonly cell: number };
  readonly placing: Placing;
  readonly config: OverlayConfig;
  readonly system: VideoSystem;
}) {
  const left = columnOf(held.cell);
  const right = left + itemSize(held.item, config).columns;
  const others = itemIds.filter((id) => id !== held.item && placing[id] >= 0);
  const lines = [
    ...(others.some((id) => columnOf(placing[id]) === left) ? [left] : []),
    ...(others.some((id) => columnOf(placing[id]) + itemSize(id, config).columns === right) ? [right] : []),
    ...(Math.abs((left + right) / 2 - system.columns / 2) < 0.6 ? [system.columns / 2] : []),
  ];
  return lines.map((column) => (
    <span
      key={column}
      aria-hidden
      className="pointer-events-none absolute inset-y-0 border-white/80 border-l border-dashed"
      style={{ left: `${(100 * column) / system.columns}%` }}
    />
  ));
}

/** Without WebGL: sky and ground by how the craft lies. */
function FlatEye({ moment: { pose } }: { readonly moment: Moment }) {
  const turn = (-pose.roll * 180) / Math.PI;
  const down = (pose.pitch * 180) / Math.PI;
  return (
    <svg
      viewBox="-80 -45 160 90"
      preserveAspectRatio="xMidYMid slice"
      className="absolute inset-0 h-full w-full"
      aria-hidden
    >
      <rect x={-80} y={-45} width={160} height={90} fill="#cfdde4" />
      <path d={`M-300 ${down * 1.4}H300V400H-300Z`} fill="#7d8d77" transform={`rotate(${turn})`} />
    </svg>
  );
}
