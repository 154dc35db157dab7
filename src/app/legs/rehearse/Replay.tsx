import { useEffect, useRef } from 'react';
import type { TrackPoint } from '#core/formats/rehearsalResult.ts';
import { usePlayed } from '../../live/usePlayed.ts';
import { PlayButton, PlaySpeed } from '../../ui/PlayParts.tsx';

const SPEEDS = [1, 4, 16, 64] as const;
const USUAL_SPEED = 16;

interface Props {
  readonly track: readonly TrackPoint[];
  readonly cursor: number;
  readonly onCursor: (index: number) => void;
}

/** Runs the cursor over the flight at a chosen speed. */
export function Replay({ track, cursor, onCursor }: Props) {
  const shown = useRef(cursor);
  shown.current = cursor;
  const clock = usePlayed(
    track.at(-1)?.atS ?? 0,
    (atS) => {
      const next = track.findIndex((p) => p.atS >= atS);
      const index = next < 0 ? track.length - 1 : next;
      if (index !== shown.current) onCursor(index);
    },
    USUAL_SPEED,
  );
  const rest = useRef(clock.rest);
  rest.current = clock.rest;
  // Another flight begins at rest.
  useEffect(() => {
    if (track.length > 0) rest.current();
  }, [track]);
  return (
    <div className="flex items-center gap-2">
      <PlayButton
        playing={clock.playing}
        onToggle={() => {
          // From where the cursor is, wherever it was put meanwhile.
          if (!clock.playing) clock.goTo(track[cursor]?.atS ?? 0);
          clock.toggle();
        }}
      />
      <PlaySpeed speed={clock.speed} speeds={SPEEDS} onSpeed={clock.setSpeed} />
    </div>
  );
}
