import { useEffect, useRef } from 'react';
import Plot from 'uplot';
import 'uplot/dist/uPlot.min.css';
import { useApp } from '../store/store.ts';

interface Line {
  readonly name: string;
  /** A colour of the style sheet, such as `--roll`. */
  readonly token: string;
}

interface Props {
  /** What is drawn, for those who do not see it. */
  readonly label: string;
  readonly lines: readonly Line[];
  readonly unit: string;
  readonly heightPx: number;
  /** Unit of what goes across: time, unless it is said otherwise. */
  readonly across?: string;
  /** What is to be drawn now: times in seconds and a list for each line, all equally long; null for a gap. Read once a frame. */
  readonly read: () => readonly [across: ArrayLike<number>, ...ArrayLike<number | null>[]];
}

/** Thousands of points that change with every frame. */
export function LivePlot({ label, lines, unit, heightPx, across = 's', read }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const latest = useRef(read);
  latest.current = read;
  const theme = useApp((s) => s.ui.theme);
  const drawn = lines.map((l) => `${l.name} ${l.token}`).join();
  useEffect(() => {
    const at = box.current!;
    const style = getComputedStyle(at);
    const color = (token: string) => style.getPropertyValue(token).trim();
    const axis = {
      stroke: color('--soft'),
      grid: { stroke: color('--line'), width: 1 },
      ticks: { stroke: color('--line'), width: 1 },
      font: `12px ${style.fontFamily}`,
    };
    const plot = new Plot(
      {
        width: at.clientWidth,
        height: heightPx,
        cursor: { show: false },
        legend: { show: false },
        scales: { x: { time: false } },
        axes: [
          { ...axis, values: (_, at) => at.map((v) => `${v} ${across}`) },
          { ...axis, size: 62, values: (_, at) => at.map((v) => `${v} ${unit}`) },
        ],
        series: [{}, ...lines.map((l) => ({ label: l.name, stroke: color(l.token), width: 1 }))],
      },
      [[], ...lines.map(() => [])],
      at,
    );
    const resize = new ResizeObserver(() => plot.setSize({ width: at.clientWidth, height: heightPx }));
    resize.observe(at);
    let frame = requestAnimationFrame(function draw() {
      plot.setData(latest.current() as Plot.AlignedData);
      frame = requestAnimationFrame(draw);
    });
    return () => {
      cancelAnimationFrame(frame);
      resize.disconnect();
      plot.destroy();
    };
  }, [theme, drawn, unit, heightPx, across]);
  return (
    <figure>
      <div ref={box} role="img" aria-label={label} style={{ height: heightPx }} />
      <figcaption className="flex gap-4 text-[13px]">
        {lines.map((l) => (
          <span key={l.name} className="flex items-center gap-1.5">
            <i className="inline-block h-0.5 w-4" style={{ background: `var(${l.token})` }} />
            {l.name}
          </span>
        ))}
      </figcaption>
    </figure>
  );
}
