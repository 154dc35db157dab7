import { Pause, Play } from 'lucide-react';
import { formatClock } from '#core/units/units.ts';
import { Select } from '../../../ui/Select.tsx';
import type { useFlightClock } from './useFlightClock.ts';

interface Props {
  readonly clock: ReturnType<typeof useFlightClock>;
  readonly endS: number;
  readonly moments: readonly { readonly atS: number; readonly text: string }[];
}

const SPEEDS = [1, 4, 16] as const;

/** Where in the flight the picture is: played, dragged along, or gone to by what the board decided. */
export function ClockBar({ clock, endS, moments }: Props) {
  const newest = moments.findLastIndex((m) => m.atS <= clock.atS);
  return (
    <div className="mt-2 flex items-center gap-3 text-[13px]">
      <button
        type="button"
        aria-label={clock.playing ? 'Pause the flight' : 'Play the flight'}
        className="rounded-[4px] border border-line bg-sheet p-1.5 hover:border-contour"
        onClick={clock.toggle}
      >
        {clock.playing ? <Pause size={15} strokeWidth={1.6} /> : <Play size={15} strokeWidth={1.6} />}
      </button>
      <span className="num w-20 text-lake">
        {formatClock(clock.atS)} / {formatClock(endS)}
      </span>
      <input
        type="range"
        aria-label="Time of the flight"
        aria-valuetext={formatClock(clock.atS)}
        min={0}
        max={Math.ceil(endS)}
        step={1}
        value={Math.round(clock.atS)}
        className="min-w-24 flex-1 accent-forest"
        onChange={(e) => clock.goTo(Number(e.target.value))}
      />
      <Select
        aria-label="Speed of the replay"
        look="small"
        value={clock.speed}
        onChange={(e) => clock.setSpeed(Number(e.target.value))}
      >
        {SPEEDS.map((s) => (
          <option key={s} value={s}>
            {s} × time
          </option>
        ))}
      </Select>
      <Select
        aria-label="Go to what the board decided"
        look="small"
        className="w-56"
        value={newest}
        onChange={(e) => clock.goTo((moments[Number(e.target.value)]?.atS ?? 0) + 0.5)}
      >
        <option value={-1}>at the launch</option>
        {moments.map((m, i) => (
          <option key={`${m.atS}${m.text}`} value={i}>
            {formatClock(m.atS)} {m.text}
          </option>
        ))}
      </Select>
    </div>
  );
}
