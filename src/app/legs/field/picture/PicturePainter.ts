import type { Place } from '#core/navigation/earth.ts';
import type { OverlayConfig } from '#core/overlay/config.ts';
import { type AlarmStates, drawOverlay } from '#core/overlay/draw.ts';
import type { LayoutId } from '#core/overlay/items.ts';
import { contrast, luminance } from '#core/overlay/legible.ts';
import type { OverlayView } from '#core/overlay/view.ts';
import type { Site } from '#core/site/site.ts';
import { drawCells, isDark } from './cellsCanvas.ts';
import type { PilotsEye, Pose } from './pilotsEye.ts';

/** All that one picture is made of. */
export interface Moment {
  readonly view: OverlayView;
  readonly pose: Pose;
  readonly states: AlarmStates;
  readonly config: OverlayConfig;
  readonly layout: LayoutId;
  readonly atS: number;
  /** What a board on the cable writes, instead of what would be drawn of the view. */
  readonly told?: Uint16Array | undefined;
}

/** A picture has to be there within this, or the site is drawn coarser: thirty a second and some to spare, ms. */
const IN_TIME_MS = 27;
/** Pictures farther apart than this are not those of a flight that plays, ms. */
const STANDS_MS = 250;
/** So many late ones in the mean until it is drawn coarser; by how much at least, and the coarsest there is. */
const LATE = 5;
const COARSER = 0.85;
const COARSEST = 0.35;

/** Paints what the pilot sees onto two canvases: the site as the camera sees it, and the cells over it. */
export class PicturePainter {
  private cells = new Uint16Array(0);
  /** What stands on the canvas: letters are drawn anew only where one of them is another. */
  private drawn: { readonly cells: Uint16Array; readonly dark: boolean } | null = null;
  private eye: PilotsEye | null = null;
  private last: Moment | null = null;
  private ended = false;
  /** Of the canvas's own size that the site is drawn at, and how it comes along. */
  private share = 1;
  private lastMs = 0;
  private late = 0;
  private fine: ReturnType<typeof setTimeout> | undefined;

  /** @param onFlat told where this machine cannot draw the site */
  constructor(
    private readonly below: HTMLCanvasElement,
    private readonly above: HTMLCanvasElement,
    site: Site,
    home: Place,
    onFlat: () => void,
  ) {
    void import('./pilotsEye.ts')
      .then(({ PilotsEye: Eye }) => {
        if (this.ended) return;
        this.eye = new Eye(below, site, home);
        this.fit();
      })
      .catch(onFlat);
  }

  /** To the size that the canvases have on the page. */
  fit(): void {
    const { clientWidth: width, clientHeight: height } = this.above;
    const ratio = Math.min(2, window.devicePixelRatio);
    this.above.width = Math.round(width * ratio);
    this.above.height = Math.round(height * ratio);
    this.drawAt(this.share);
    this.drawn = null;
    if (this.last) this.paint(this.last);
  }

  /** On a machine that does not come along the site is drawn coarser; the letters stay as they are. */
  private keepPace(): void {
    const now = performance.now();
    const apart = now - this.lastMs;
    this.lastMs = now;
    if (apart > STANDS_MS) return;
    this.late = Math.max(0, this.late + (apart > IN_TIME_MS ? 1 : -1));
    if (this.late < LATE || this.share <= COARSEST) return;
    this.late = 0;
    // What it takes goes by the area.
    const by = Math.min(COARSER, Math.max(0.5, Math.sqrt(IN_TIME_MS / apart)));
    this.drawAt(Math.max(COARSEST, this.share * by));
  }

  private drawAt(share: number): void {
    this.share = share;
    const { clientWidth, clientHeight } = this.above;
    this.eye?.size(Math.round(clientWidth * share), Math.round(clientHeight * share));
  }

  /** What stands still is drawn as finely as it can be. */
  private fineOnceItStands(): void {
    clearTimeout(this.fine);
    if (this.share === 1) return;
    this.fine = setTimeout(() => {
      this.drawAt(1);
      if (this.last) this.eye?.show(this.last.pose);
    }, STANDS_MS);
  }

  paint(m: Moment): void {
    this.keepPace();
    this.last = m;
    this.eye?.show(m.pose);
    this.fineOnceItStands();
    const g = this.above.getContext('2d');
    const { system } = m.config;
    if (!g || !system) return;
    const size = system.columns * system.rows;
    if (this.cells.length !== size) this.cells = new Uint16Array(size);
    if (m.told?.length !== size) drawOverlay(m.layout, m.view, m.config, system, m.states, this.cells);
    const cells = m.told?.length === size ? m.told : this.cells;
    const dark = isDark(m.atS);
    const { drawn } = this;
    if (drawn?.dark === dark && drawn.cells.length === size && drawn.cells.every((c, i) => c === cells[i]))
      return;
    this.drawn = { cells: cells.slice(), dark };
    drawCells(g, cells, system.columns, system.rows, dark);
  }

  /** Contrast of white letters with the picture behind each cell, row by row; null before anything was drawn. */
  contrasts(columns: number, rows: number): Float64Array | null {
    if (!this.eye) return null;
    const small = document.createElement('canvas');
    small.width = columns;
    small.height = rows;
    const g = small.getContext('2d', { willReadFrequently: true });
    if (!g) return null;
    g.drawImage(this.below, 0, 0, columns, rows);
    const { data } = g.getImageData(0, 0, columns, rows);
    return Float64Array.from({ length: columns * rows }, (_, i) =>
      contrast(1, luminance(data[4 * i]!, data[4 * i + 1]!, data[4 * i + 2]!)),
    );
  }

  end(): void {
    this.ended = true;
    clearTimeout(this.fine);
    this.eye?.dispose();
  }
}
