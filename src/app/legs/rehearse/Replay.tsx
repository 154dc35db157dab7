import { Pause, Play } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { TrackPoint } from '#core/formats/rehearsalResult.ts';
import { Select } from '../../ui/Select.tsx';

const SPEEDS = [1, 4, 16, 64] as const;

interface Props {
  readonly track: readonly TrackPoint[];
  readonly cursor: number;
  readonly onCursor: (index: number) => void;
}

/** Runs the cursor over the flight at a chosen speed. */
export function Replay({ track, cursor, onCursor }: Props) {
  const [playing, setPlaying] = useState(false);
  const [speed, setSpeed] = useState<(typeof SPEEDS)[number]>(16);
  const at = useRef(0);
  const shown = useRef(cursor);
  shown.current = cursor;
  useEffect(() => {
    if (!playing) return;
    const end = track.at(-1)!.atS;
    at.current = track[shown.current]?.atS ?? 0;
    if (at.current >= end - 0.6) at.current = 0;
    let last = performance.now();
    let frame = requestAnimationFrame(function run(now: number) {
      at.current = Math.min(end, at.current + ((now - last) / 1000) * speed);
      last = now;
      const next = track.findIndex((p) => p.atS >= at.current);
      const index = next < 0 ? track.length - 1 : next;
      if (index !== shown.current) onCursor(index);
      if (at.current >= end) setPlaying(false);
      else frame = requestAnimationFrame(run);
    });
    return () => cancelAnimationFrame(frame);
  }, [playing, speed, track, onCursor]);
  // Another flight begins at rest.
  useEffect(() => {
    if (track.length > 0) setPlaying(false);
  }, [track]);
  return (
    <div className="flex items-center gap-2">
      <button
        type="button"
        aria-label={playing ? 'Pause the flight' : 'Play the flight'}
        className="rounded-[4px] border border-line bg-sheet p-1.5 hover:border-contour"
        onClick={() => setPlaying(!playing)}
      >
        {playing ? <Pause size={15} strokeWidth={1.6} /> : <Play size={15} strokeWidth={1.6} />}
      </button>
      <Select
        aria-label="Speed of the replay"
        value={speed}
        className="text-[13px]"
        onChange={(e) => setSpeed(SPEEDS.find((s) => s === Number(e.target.value))!)}
      >
        {SPEEDS.map((s) => (
          <option key={s} value={s}>
            {s} × time
          </option>
        ))}
      </Select>
    </div>
  );
}
