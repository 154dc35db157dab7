import type { RefObject } from 'react';
import { dragOn } from '../ui/dragOn.ts';

interface Props {
  readonly svg: RefObject<SVGSVGElement | null>;
  readonly label: string;
  readonly value: number;
  readonly x: number;
  readonly y: number;
  readonly axis: 'x' | 'y';
  /** Position along the axis in the drawing's own units. */
  readonly onDrag: (position: number) => void;
  /** Steps by key: 1 or 10, either way; up and right are positive. */
  readonly onStep: (steps: number) => void;
}

/** A handle on a drawing that is a setting: dragged, or stepped with the arrow keys. */
export function DragHandle({ svg, label, value, x, y, axis, onDrag, onStep }: Props) {
  return (
    <g
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={value}
      aria-orientation={axis === 'x' ? 'horizontal' : 'vertical'}
      className={`touch-none ${axis === 'x' ? 'cursor-ew-resize' : 'cursor-ns-resize'}`}
      {...dragOn(svg, (at) => onDrag(at[axis]))}
      onKeyDown={(e) => {
        const by = e.shiftKey ? 10 : 1;
        const up = e.key === 'ArrowUp' || e.key === 'ArrowRight';
        const down = e.key === 'ArrowDown' || e.key === 'ArrowLeft';
        if (!up && !down) return;
        e.preventDefault();
        onStep(up ? by : -by);
      }}
    >
      <circle cx={x} cy={y} r={16} fill="transparent" />
      <circle cx={x} cy={y} r={8} fill="var(--sheet)" stroke="var(--forest)" strokeWidth={2.4} />
    </g>
  );
}
