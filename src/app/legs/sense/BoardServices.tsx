import { useState } from 'react';
import { hearBytes } from '#core/sensors/hearBytes.ts';
import { formatNumber } from '#core/units/units.ts';
import { useSampled } from '../../live/hooks.ts';
import { recent } from '../../live/telemetry.ts';
import { type HeardPort, usePortBytes } from '../../live/usePortBytes.ts';
import { useApp } from '../../store/store.ts';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Figure } from './Figure.tsx';

/** Of readings: more than this that fail, and something is wrong with the bus. */
const ERRORS_MANY = 0.001;
const WINDOW_S = 30;

/** What the board counts of itself and its bus, and what would help. */
export function BoardServices() {
  const can = useApp((s) => s.board.identity?.can.telemetry.includes('services') ?? false);
  const has = useApp((s) => s.settings.base['bus.speed'] !== undefined);
  const now = useSampled(() => {
    const said = recent('services', WINDOW_S);
    const [first, last] = [said[0], said.at(-1)];
    if (!first || !last || last === first) return null;
    const [a, b] = [first.value, last.value];
    const seconds = last.atS - first.atS;
    const reads = b.busReads - a.busReads;
    return {
      ...b,
      gyroHz: (b.gyroSamples - a.gyroSamples) / seconds,
      baroHz: (b.baroSamples - a.baroSamples) / seconds,
      lateMs: Math.max(...said.map((s) => s.value.lateMs)),
      damaged: b.framesDamaged - a.framesDamaged,
      reads,
      lost: reads > 0 ? (b.busErrors - a.busErrors) / reads : 0,
      seconds,
    };
  }, 1000);
  if (!can) return null;
  return (
    <section className="mt-4 border-line border-t pt-3">
      <h2 className="font-semibold">The board itself</h2>
      {now ? (
        <>
          <p className="mt-1">
            <Figure value={formatNumber(now.gyroHz, 0)} unit="Hz" words="from its gyro" />
            <Figure value={formatNumber(now.baroHz, 0)} unit="Hz" words="from its barometer" />
            <Figure value={formatNumber(now.lateMs, 1)} unit="ms" words="late at the most" />
            <Figure value={formatNumber(now.damaged, 0)} words="frames came damaged" />
            <Figure
              value={now.logRoom > 0 ? formatNumber((100 * now.logUsed) / now.logRoom, 0) : '–'}
              unit="%"
              words="of its log is used"
            />
          </p>
          <p className="mt-2">
            <Figure value={formatNumber(now.busKhz, 0)} unit="kHz" words="the bus outside" />
            <Figure value={formatNumber(100 * now.busShare, 1)} unit="%" words="of it is asked for" />
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

const ports: readonly { readonly id: HeardPort; readonly name: string }[] = [
  { id: 'gnss', name: 'of the GNSS receiver' },
  { id: 'receiver', name: 'of the radio' },
];

/** What comes at a port, in hexadecimal and in words. */
function Ports() {
  const can = useApp((s) => s.board.identity?.can.requests.includes('heard') ?? false);
  const [port, setPort] = useState<HeardPort>('receiver');
  const bytes = usePortBytes(port);
  if (!can) return null;
  return (
    <div className="mt-3">
      <p className="flex flex-wrap items-center gap-2">
        The port
        <Select
          look="small"
          aria-label="Port"
          value={port}
          onChange={(e) => setPort(e.target.value as HeardPort)}
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
