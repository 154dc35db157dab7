import { useEffect, useMemo, useRef, useState } from 'react';
import { welch } from '#core/analysis/spectrum.ts';
import { displayOf } from '#core/units/units.ts';
import { StreamRing } from '#link/streamRing.ts';
import { boardSession } from '../../board/session.ts';
import { saveText } from '../../files.ts';
import { useSampled } from '../../live/hooks.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { LivePlot } from '../../ui/LivePlot.tsx';
import { Lead } from '../Lead.tsx';
import { BoardServices } from './BoardServices.tsx';
import {
  type Channel,
  csvOf,
  GRID_HZ,
  MOST_CHANNELS,
  streamChannels,
  type Table,
  tableOf,
  toldChannels,
  trembleOf,
} from './channels.ts';

const SHOWN_S = 10;
const tokens = ['--roll', '--pitch', '--yaw', '--forest', '--amber', '--lake'] as const;
const first = ['attitude.roll', 'attitude.pitch'];

/** Any value over time. */
export default function EverythingStation() {
  const ready = useApp((s) => s.board.link === 'ready');
  const streams = useApp((s) => s.board.identity?.can.streams);
  const told = useSampled(toldChannels, 2000);
  const all = useMemo(() => [...told, ...streamChannels(streams ?? [])], [told, streams]);
  const [picked, setPicked] = useState<readonly string[]>(first);
  const channels = picked.flatMap((id) => all.find((c) => c.id === id) ?? []);
  const [frozen, setFrozen] = useState<Table | null>(null);
  const [spectrumOf, setSpectrumOf] = useState<string | null>(null);
  const fields = useMemo(() => new Map((streams ?? []).map((s) => [s.source, s.fields])), [streams]);

  // One stream for each sensor of which something is shown; the ring is made with it.
  const rings = useRef(new Map<string, StreamRing>());
  const wanted = [...new Set(channels.flatMap((c) => c.source ?? []))].join();
  useEffect(() => {
    if (!ready || wanted === '') return;
    const ends = wanted.split(',').map((source) => {
      const stream = streams?.find((s) => s.source === source);
      const hz = Math.min(stream?.mostHz ?? GRID_HZ, GRID_HZ);
      const ring = new StreamRing(stream?.fields.length ?? 1, hz * (SHOWN_S + 1));
      rings.current.set(source, ring);
      return boardSession.watchStream(source, hz, ring, () => {});
    });
    return () => {
      for (const end of ends) end();
      rings.current.clear();
    };
  }, [ready, wanted, streams]);

  const now = () => frozen ?? tableOf(channels, rings.current, fields, SHOWN_S);
  const latest = useRef(now);
  latest.current = now;
  const figures = useSampled(() => latest.current().values.map(trembleOf), 500);
  const byUnit = new Map<string, Channel[]>();
  for (const c of channels) byUnit.set(c.unit, [...(byUnit.get(c.unit) ?? []), c]);
  const toggle = (id: string) => {
    setFrozen(null);
    setPicked((p) =>
      p.includes(id) ? p.filter((x) => x !== id) : p.length >= MOST_CHANNELS ? p : [...p, id],
    );
  };
  const groups = [...new Set(all.map((c) => (c.source === null ? c.of : `${c.of}, raw`)))];
  return (
    <>
      <Lead />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <Button onClick={() => setFrozen(frozen ? null : latest.current())} disabled={channels.length === 0}>
          {frozen ? 'Go on' : 'Freeze'}
        </Button>
        <Button
          disabled={channels.length === 0}
          onClick={() => saveText('values.csv', 'text/csv', csvOf(channels, latest.current()))}
        >
          Save as a table
        </Button>
        <p className="text-[13px] text-soft" role="status">
          {!ready
            ? 'The board is away.'
            : picked.length >= MOST_CHANNELS
              ? `${MOST_CHANNELS} are as many as one can follow: leave one to take another.`
              : `${channels.length} of ${all.length} values, the last ${SHOWN_S} s${frozen ? ', frozen' : ''}`}
        </p>
      </div>
      {[...byUnit].map(([unit, of]) => (
        <LivePlot
          key={unit}
          label={`${of.map((c) => `${c.of} ${c.name}`).join(', ')} over the last ${SHOWN_S} seconds`}
          lines={of.map((c, i) => ({ name: `${c.of} ${c.name}`, token: tokens[i % tokens.length]! }))}
          unit={displayOf(unit, 'metric').symbol}
          heightPx={byUnit.size > 2 ? 110 : 170}
          read={() => {
            const { times, values } = latest.current();
            return [times, ...of.map((c) => gapsOf(values[channels.indexOf(c)]))];
          }}
        />
      ))}
      {channels.length > 0 && (
        <table className="mt-2 w-full max-w-[620px] text-[13px]">
          <thead>
            <tr className="text-left text-soft">
              <th className="font-normal">Value</th>
              <th className="text-right font-normal">mean</th>
              <th className="text-right font-normal">trembles by</th>
              <th />
            </tr>
          </thead>
          <tbody>
            {channels.map((c, i) => (
              <tr key={c.id} className="border-line border-t">
                <td className="py-0.5">
                  {c.of} {c.name}
                </td>
                <td className="num text-right">{said(figures[i]?.mean)}</td>
                <td className="text-right">
                  <span className="num">{said(figures[i]?.rms)}</span> {displayOf(c.unit, 'metric').symbol}
                </td>
                <td className="text-right">
                  <Button
                    kind="flat"
                    aria-pressed={spectrumOf === c.id}
                    onClick={() => setSpectrumOf(spectrumOf === c.id ? null : c.id)}
                  >
                    Spectrum
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {spectrumOf !== null && channels.some((c) => c.id === spectrumOf) && (
        <SpectrumOf
          channel={channels.find((c) => c.id === spectrumOf)!}
          read={() => latest.current().values[channels.findIndex((c) => c.id === spectrumOf)]}
        />
      )}
      <BoardServices />
      <div className="mt-4 grid gap-x-6 gap-y-3 border-line border-t pt-3 min-[900px]:grid-cols-2">
        {groups.map((group) => (
          <fieldset key={group} className="min-w-0">
            <legend className="label">{group}</legend>
            <div className="flex flex-wrap gap-1">
              {all
                .filter((c) => (c.source === null ? c.of : `${c.of}, raw`) === group)
                .map((c) => (
                  <button
                    key={c.id}
                    type="button"
                    aria-pressed={picked.includes(c.id)}
                    className={`rounded-[4px] border px-1.5 py-0.5 text-[13px] ${picked.includes(c.id) ? 'border-forest bg-forest-wash font-semibold' : 'border-line'}`}
                    onClick={() => toggle(c.id)}
                  >
                    {c.name}
                  </button>
                ))}
            </div>
          </fieldset>
        ))}
      </div>
    </>
  );
}

const gapsOf = (values: Float64Array | undefined) =>
  Array.from(values ?? [], (v) => (Number.isNaN(v) ? null : v));

const said = (v: number | undefined) =>
  v === undefined || Number.isNaN(v) ? '–' : String(Number(v.toPrecision(3)));

/** Of one value: how much of its trembling lies at which frequency. */
function SpectrumOf({
  channel,
  read,
}: {
  readonly channel: Channel;
  readonly read: () => Float64Array | undefined;
}) {
  const latest = useRef(read);
  latest.current = read;
  const spectrum = useSampled(() => {
    const values = latest.current();
    return values && !values.some(Number.isNaN) ? welch(values, GRID_HZ, 256) : null;
  }, 700);
  if (!spectrum) return <p className="text-soft">The spectrum comes once ten seconds are there.</p>;
  return (
    <LivePlot
      label={`Spectrum of ${channel.of} ${channel.name}`}
      lines={[{ name: `${channel.of} ${channel.name}, by frequency`, token: '--lake' }]}
      unit=""
      across="Hz"
      heightPx={130}
      read={() => [
        Array.from(spectrum.density, (_, i) => i * spectrum.stepHz),
        Array.from(spectrum.density, (d) => Math.sqrt(d)),
      ]}
    />
  );
}
