import type { PointerEvent, RefObject } from 'react';

interface Point {
  readonly x: number;
  readonly y: number;
}

/** Where a pointer is on a drawing, in the drawing's own units; null while it is not shown. */
export function pointOn(
  svg: SVGSVGElement | null,
  e: Pick<PointerEvent, 'clientX' | 'clientY'>,
): Point | null {
  const matrix = svg?.getScreenCTM();
  if (!matrix) return null;
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(matrix.inverse());
  return { x, y };
}

/** Handlers of something on a drawing that follows the pointer while it is held, wherever that goes. */
export function dragOn(
  svg: RefObject<SVGSVGElement | null>,
  onDrag: (at: Point) => void,
  onGrab?: () => void,
) {
  return {
    onPointerDown: (e: PointerEvent<SVGElement>) => {
      e.currentTarget.setPointerCapture(e.pointerId);
      e.currentTarget.focus();
      onGrab?.();
    },
    onPointerMove: (e: PointerEvent<SVGElement>) => {
      const at = e.currentTarget.hasPointerCapture(e.pointerId) ? pointOn(svg.current, e) : null;
      if (at) onDrag(at);
    },
  };
}
