import { arrowAngle, BLANK, BLINKS, barShare, symbolOf } from '#core/overlay/glyphs.ts';

/** Letters over a picture are white with a dark edge, whatever the application looks like. */
const LETTER = '#ffffff';
const EDGE = '#10140f';
const BLINK_S = 0.5;

/** Whether what blinks is left out at a time. */
export const isDark = (atS: number): boolean => Math.floor(atS / BLINK_S) % 2 === 1;

/** Draws the cells of an overlay onto a canvas of any size. Those that blink are left out half of the time. */
export function drawCells(
  g: CanvasRenderingContext2D,
  cells: Uint16Array,
  columns: number,
  rows: number,
  dark: boolean,
): void {
  const { width, height } = g.canvas;
  const w = width / columns;
  const h = height / rows;
  g.clearRect(0, 0, width, height);
  g.textAlign = 'center';
  g.textBaseline = 'middle';
  g.lineJoin = 'round';
  g.font = `500 ${Math.round(0.86 * h)}px "Figures", "Barlow Semi Condensed", sans-serif`;
  for (let i = 0; i < cells.length; i++) {
    const cell = cells[i]!;
    const code = cell & 0xff;
    if (code === BLANK || (dark && cell & BLINKS)) continue;
    const x = (i % columns) * w;
    const y = Math.floor(i / columns) * h;
    const symbol = symbolOf(code);
    if (symbol === null) {
      letter(g, String.fromCharCode(code), x + w / 2, y + h * 0.54, h);
      continue;
    }
    g.save();
    g.translate(x + w / 2, y + h / 2);
    const path = new Path2D();
    const r = 0.42 * Math.min(w * 1.2, h);
    let filled = false;
    switch (symbol) {
      case 'arrow':
        g.rotate(arrowAngle(code));
        path.moveTo(0, -r);
        path.lineTo(0.72 * r, r);
        path.lineTo(0, 0.45 * r);
        path.lineTo(-0.72 * r, r);
        path.closePath();
        filled = true;
        break;
      case 'bar': {
        const up = h * (0.5 - barShare(code));
        path.rect(-w / 2, up - h * 0.05, w, h * 0.1);
        filled = true;
        break;
      }
      case 'aim':
        path.rect(-w / 2, -h * 0.06, w, h * 0.12);
        filled = true;
        break;
      case 'home':
        path.moveTo(-r, 0);
        path.lineTo(0, -0.9 * r);
        path.lineTo(r, 0);
        path.moveTo(-0.65 * r, 0);
        path.lineTo(-0.65 * r, 0.9 * r);
        path.lineTo(0.65 * r, 0.9 * r);
        path.lineTo(0.65 * r, 0);
        break;
      case 'satellite':
        path.rect(-0.28 * r, -0.5 * r, 0.56 * r, r);
        path.moveTo(-r, -0.3 * r);
        path.lineTo(-0.28 * r, 0);
        path.moveTo(0.28 * r, 0);
        path.lineTo(r, 0.3 * r);
        break;
      case 'degree':
        path.arc(0, -0.45 * r, 0.34 * r, 0, 2 * Math.PI);
        break;
      case 'link':
        path.moveTo(0, r);
        path.lineTo(0, -0.1 * r);
        path.moveTo(-0.8 * r, -0.9 * r);
        path.lineTo(0, -0.1 * r);
        path.lineTo(0.8 * r, -0.9 * r);
        break;
      case 'battery':
        path.rect(-0.55 * r, -0.6 * r, 1.1 * r, 1.5 * r);
        path.rect(-0.2 * r, -0.95 * r, 0.4 * r, 0.3 * r);
        break;
    }
    g.strokeStyle = EDGE;
    g.lineWidth = Math.max(2, h * (filled ? 0.1 : 0.22));
    g.stroke(path);
    if (filled) {
      g.fillStyle = LETTER;
      g.fill(path);
    } else {
      g.strokeStyle = LETTER;
      g.lineWidth = Math.max(1, h * 0.08);
      g.stroke(path);
    }
    g.restore();
  }
}

function letter(g: CanvasRenderingContext2D, text: string, x: number, y: number, h: number): void {
  g.strokeStyle = EDGE;
  g.lineWidth = Math.max(2, h * 0.2);
  g.strokeText(text, x, y);
  g.fillStyle = LETTER;
  g.fillText(text, x, y);
}
