import { useEffect, useState } from 'react';
import { hearBytes } from '#core/sensors/hearBytes.ts';
import { formatNumber } from '#core/units/units.ts';
import { boardSession } from '../../board/session.ts';
import { useSampled } from '../../live/hooks.ts';
import { live, recent } from '../../live/telemetry.ts';
import { useApp } from '../../store/store.ts';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Figure } from './Figure.tsx';

/** Of readings: more than this that fail, and something is wrong with the bus. */
const ERRORS_MANY = 0.001;
const WINDOW_S = 30;

/** How busy the board and its bus are, and what would help. */
export function BoardServices() {
  const can = useApp((s) => s.board.identity?.can.telemetry.includes('services') ?? false);
  const has = useApp((s) => s.settings.base['bus.speed'] !== undefined);
  const now = useSampled(() => {
    const last = live('services');
    const first = recent('services', WINDOW_S)[0]?.value;
    if (!last) return null;
    const from = first && first.busReads <= last.busReads ? first : { busReads: 0, busErrors: 0 };
    const reads = last.busReads - from.busReads;
    const errors = last.busErrors - from.busErrors;
    return { ...last, reads, errors, lost: reads > 0 ? errors / reads : 0 };
  }, 1000);
  if (!can) return null;
  return (
    <section className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">The board itself</h2>
      {now ? (
        <>
          <p className="mt-1">
            <Figure value={formatNumber(now.loopHz, 0)} unit="Hz" words="its loop" />
            <Figure value={formatNumber(now.loopUs, 0)} unit="µs" words="for one of them" />
            <Figure value={formatNumber(100 * now.load, 0)} unit="%" words="of its time" />
            <Figure value={formatNumber(now.freeKb, 0)} unit="kB" words="left of its memory" />
          </p>
          <p className="mt-2">
            <Figure value={formatNumber(now.busKhz, 0)} unit="kHz" words="the bus outside" />
            <Figure value={formatNumber(100 * now.busShare, 1)} unit="%" words="of it is used" />
            <Figure value={formatNumber(100 * now.lost, 1)} unit="%" words="of readings failed" />
          </p>
          <p className={now.lost > ERRORS_MANY ? 'text-amber' : 'text-soft'} role="status">
            {now.reads === 0
              ? 'Nothing outside the board is read over it.'
              : now.lost > ERRORS_MANY
                ? now.busKhz > 100
                  ? 'So many fail where the bus has no pull-ups or long wires. Fit resistors of 2 to 5 kΩ to its supply; or let it run at 100 kHz, where its edges have four times as long.'
                  : 'Even at 100 kHz some fail: fit pull-ups, shorten the wires, or look for a sensor that hangs.'
                : `None of the last ${formatNumber(now.reads, 0)} readings failed.`}
          </p>
          {has && (
            <p className="mt-1 flex items-center gap-3 text-soft">
              Speed of the bus <SettingField name="bus.speed" />
            </p>
          )}
        </>
      ) : (
        <p className="text-soft">It has told nothing of itself yet.</p>
      )}
      <Ports />
    </section>
  );
}

const ports = [
  { id: 'gnss', name: 'of the GNSS receiver' },
  { id: 'receiver', name: 'of the radio' },
] as const;

/** What comes at a port, in hexadecimal and in words. */
function Ports() {
  const ready = useApp((s) => s.board.link === 'ready');
  const can = useApp((s) => s.board.identity?.can.requests.includes('heard') ?? false);
  const [port, setPort] = useState<(typeof ports)[number]['id']>('receiver');
  const [bytes, setBytes] = useState<Uint8Array | null>(null);
  useEffect(() => {
    if (!ready || !can) return;
    let current = true;
    setBytes(null);
    const look = async () => {
      try {
        const heard = await boardSession.openLink().request('heard', { port }, 1);
        if (current) setBytes(heard.bytes);
      } catch {
        // The next look comes in a second.
      }
    };
    void look();
    const timer = setInterval(() => void look(), 1000);
    return () => {
      current = false;
      clearInterval(timer);
    };
  }, [ready, can, port]);
  if (!can) return null;
  return (
    <div className="mt-3">
      <p className="flex flex-wrap items-center gap-2">
        The port
        <Select
          look="small"
          aria-label="Port"
          value={port}
          onChange={(e) => setPort(e.target.value as typeof port)}
        >
          {ports.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
            </option>
          ))}
        </Select>
        <span className="text-soft">{bytes ? hearBytes(bytes).says : 'is being looked at.'}</span>
      </p>
      <p className="num mt-1 max-h-[104px] overflow-hidden rounded-[4px] bg-sunk px-2 py-1 text-[12px] leading-5">
        {bytes && bytes.length > 0
          ? Array.from(bytes.subarray(-128), (b) => b.toString(16).padStart(2, '0')).join(' ')
          : '…'}
      </p>
    </div>
  );
}
