import { useEffect, useRef, useState } from 'react';
import type { Airframe } from '#core/airframe/airframe.ts';
import { widthOf } from '#core/airframe/airframe.ts';
import type { TrackPoint } from '#core/formats/rehearsalResult.ts';
import type { Site } from '#core/site/site.ts';
import { CraftRear } from './CraftRear.tsx';
import { FlightScene } from './flightScene.ts';

interface Props {
  readonly airframe: Airframe;
  readonly site: Site;
  readonly track: readonly TrackPoint[];
  /** Index of the point that is looked at. */
  readonly cursor: number;
}

/** The craft over the ground in three dimensions, seen from behind it. Drag to look round, wheel to come nearer. */
export default function InTheAir({ airframe, site, track, cursor }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const scene = useRef<FlightScene | null>(null);
  const [flat, setFlat] = useState(false);
  const point = track[Math.min(cursor, track.length - 1)]!;
  const now = useRef(point);
  now.current = point;
  useEffect(() => {
    const element = canvas.current;
    if (!element) return;
    let made: FlightScene;
    try {
      made = new FlightScene(element, airframe, track, site);
    } catch {
      // No WebGL on this machine: the flat drawing serves.
      setFlat(true);
      return;
    }
    scene.current = made;
    const fit = () => made.size(element.clientWidth, element.clientHeight);
    const watch = new ResizeObserver(fit);
    watch.observe(element);
    made.show(now.current);
    fit();
    return () => {
      watch.disconnect();
      made.dispose();
      scene.current = null;
    };
  }, [airframe, site, track]);
  useEffect(() => scene.current?.show(point), [point]);
  if (flat) return <FlatView airframe={airframe} roll={point.rollDeg} pitch={point.pitchDeg} />;
  const look = (around: number, above: number) => {
    const s = scene.current;
    if (!s) return;
    s.around += around;
    s.above = Math.min(1.5, Math.max(-0.2, s.above + above));
    s.draw();
  };
  return (
    <canvas
      ref={canvas}
      tabIndex={0}
      role="img"
      aria-label={`${airframe.name} in the air: bank ${point.rollDeg.toFixed(0)}°, nose ${point.pitchDeg.toFixed(0)}°. Arrows look round, plus and minus come nearer.`}
      className="absolute inset-0 h-full w-full touch-none"
      onPointerDown={(e) => e.currentTarget.setPointerCapture(e.pointerId)}
      onPointerMove={(e) => e.buttons > 0 && look(-e.movementX * 0.008, e.movementY * 0.006)}
      onWheel={(e) => {
        const s = scene.current;
        if (!s) return;
        s.away = Math.min(3000, Math.max(6, s.away * (e.deltaY > 0 ? 1.15 : 1 / 1.15)));
        s.draw();
      }}
      onKeyDown={(e) => {
        const s = scene.current;
        const turn = {
          ArrowLeft: [0.15, 0],
          ArrowRight: [-0.15, 0],
          ArrowUp: [0, 0.1],
          ArrowDown: [0, -0.1],
        }[e.key];
        if (turn) {
          e.preventDefault();
          look(turn[0]!, turn[1]!);
        } else if (s && (e.key === '+' || e.key === '-')) {
          s.away = Math.min(3000, Math.max(6, s.away * (e.key === '+' ? 1 / 1.2 : 1.2)));
          s.draw();
        }
      }}
    />
  );
}

/** Without WebGL: the craft from behind against its horizon. */
function FlatView({
  airframe,
  roll,
  pitch,
}: {
  readonly airframe: Airframe;
  readonly roll: number;
  readonly pitch: number;
}) {
  return (
    <svg
      viewBox="-200 -120 400 240"
      className="absolute inset-0 h-full w-full"
      role="img"
      aria-label="The craft from behind, against the horizon"
    >
      <rect x={-200} y={-120} width={400} height={240} fill="var(--sea)" />
      <path d={`M-200 ${2 * pitch}H200V120H-200Z`} fill="var(--forest-wash)" stroke="var(--contour)" />
      <g transform={`rotate(${roll})`}>
        <CraftRear airframe={airframe} scale={220 / widthOf(airframe)} />
      </g>
    </svg>
  );
}
