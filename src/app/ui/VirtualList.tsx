import { useVirtualizer } from '@tanstack/react-virtual';
import { type ReactNode, useRef } from 'react';

interface Props<Item> {
  readonly label: string;
  readonly items: readonly Item[];
  readonly keyOf: (item: Item) => string;
  /** Height of a row before it is measured, px. */
  readonly rowPx: number;
  readonly row: (item: Item) => ReactNode;
  readonly className?: string;
}

/** A long list of which only what is seen is there. Rows may be of any height. */
export function VirtualList<Item>({ label, items, keyOf, rowPx, row, className = '' }: Props<Item>) {
  const box = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: items.length,
    getScrollElement: () => box.current,
    estimateSize: () => rowPx,
    getItemKey: (i) => keyOf(items[i]!),
    overscan: 12,
  });
  return (
    <div ref={box} className={`overflow-y-auto ${className}`} tabIndex={0} role="region" aria-label={label}>
      <ul className="relative" style={{ height: list.getTotalSize() }}>
        {list.getVirtualItems().map(({ key, index, start }) => (
          <li
            key={key}
            ref={list.measureElement}
            data-index={index}
            aria-setsize={items.length}
            aria-posinset={index + 1}
            className="absolute inset-x-0 top-0"
            style={{ transform: `translateY(${start}px)` }}
          >
            {row(items[index]!)}
          </li>
        ))}
      </ul>
    </div>
  );
}
