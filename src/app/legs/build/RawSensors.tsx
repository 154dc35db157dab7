import { useEffect, useState } from 'react';
import { StreamRing } from '#link/streamRing.ts';
import { boardSession } from '../../board/session.ts';
import { useSampled } from '../../live/hooks.ts';
import { useApp } from '../../store/store.ts';
import { LivePlot } from '../../ui/LivePlot.tsx';
import { Select } from '../../ui/Select.tsx';

/** Seconds that are drawn. */
const SHOWN_S = 3;
const tokens = ['--roll', '--pitch', '--yaw', '--forest'] as const;

/** What a sensor gives before anything is done with it, at its own rate: whether it lives, how it trembles. */
export default function RawSensors() {
  const streams = useApp((s) => s.board.identity?.can.streams ?? []);
  const [name, setName] = useState(streams[0]!.source);
  const [ring, setRing] = useState<StreamRing | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const stream = streams.find((s) => s.source === name) ?? streams[0]!;
  const { source, mostHz, fields, unit } = stream;
  const width = fields.length;
  useEffect(() => {
    const fresh = new StreamRing(width, Math.ceil(mostHz * SHOWN_S));
    setRing(fresh);
    setFault(null);
    return boardSession.watchStream(source, mostHz, fresh, setFault);
  }, [source, mostHz, width]);
  const told = useSampled(() => ring && { count: ring.unbroken, lost: ring.lost, dtS: ring.dtS }, 400);
  return (
    <div className="mt-2 max-w-[700px]">
      <p className="flex items-center gap-3 text-[13px] text-soft">
        <Select look="small" aria-label="Sensor" value={source} onChange={(e) => setName(e.target.value)}>
          {streams.map((s) => (
            <option key={s.source} value={s.source}>
              {s.source}
            </option>
          ))}
        </Select>
        {fault ? (
          <span className="text-red">{fault}</span>
        ) : told && told.count > 0 ? (
          <span>
            <span className="num">{Math.round(1 / told.dtS)}</span> a second by the board’s own time
            {told.lost > 0 && (
              <>
                , <span className="num">{told.lost}</span> blocks lost on the cable
              </>
            )}
          </span>
        ) : (
          'nothing has come yet'
        )}
      </p>
      <LivePlot
        label={`${source}, raw`}
        lines={fields.map((field, i) => ({ name: field, token: tokens[i % tokens.length]! }))}
        unit={unit}
        heightPx={190}
        read={() => {
          const count = ring?.unbroken ?? 0;
          const times = Array.from({ length: count }, (_, i) => (i - count + 1) * (ring?.dtS ?? 0));
          return [times, ...fields.map((_, k) => ring?.newest(k, count) ?? [])];
        }}
      />
    </div>
  );
}
