import { Pause, Play } from 'lucide-react';
import { Select } from './Select.tsx';

interface Props {
  readonly playing: boolean;
  readonly speed: number;
  readonly speeds: readonly number[];
  readonly onToggle: () => void;
  readonly onSpeed: (speed: number) => void;
}

/** Plays a flight and lets it rest. */
export function PlayButton({ playing, onToggle }: Pick<Props, 'playing' | 'onToggle'>) {
  return (
    <button
      type="button"
      aria-label={playing ? 'Pause the flight' : 'Play the flight'}
      className="rounded-[4px] border border-line bg-sheet p-1.5 hover:border-contour"
      onClick={onToggle}
    >
      {playing ? <Pause size={15} strokeWidth={1.6} /> : <Play size={15} strokeWidth={1.6} />}
    </button>
  );
}

/** How many times as fast as it was flown. */
export function PlaySpeed({ speed, speeds, onSpeed }: Pick<Props, 'speed' | 'speeds' | 'onSpeed'>) {
  return (
    <Select
      aria-label="Speed of the replay"
      value={speed}
      className="text-[13px]"
      onChange={(e) => onSpeed(Number(e.target.value))}
    >
      {speeds.map((s) => (
        <option key={s} value={s}>
          {s} × time
        </option>
      ))}
    </Select>
  );
}
