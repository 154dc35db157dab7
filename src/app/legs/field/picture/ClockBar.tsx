import { formatClock } from '#core/units/units.ts';
import type { usePlayed } from '../../../live/usePlayed.ts';
import { PlayButton, PlaySpeed } from '../../../ui/PlayParts.tsx';
import { Select } from '../../../ui/Select.tsx';

interface Props {
  readonly clock: ReturnType<typeof usePlayed>;
  readonly endS: number;
  readonly moments: readonly { readonly atS: number; readonly text: string }[];
}

const SPEEDS = [1, 4, 16] as const;

/** Where in the flight the picture is: played, dragged along, or gone to by what the board decided. */
export function ClockBar({ clock, endS, moments }: Props) {
  const newest = moments.findLastIndex((m) => m.atS <= clock.atS);
  return (
    <div className="mt-2 flex items-center gap-3 text-[13px]">
      <PlayButton playing={clock.playing} onToggle={clock.toggle} />
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
      <PlaySpeed speed={clock.speed} speeds={SPEEDS} onSpeed={clock.setSpeed} />
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
