import { useMemo, useState } from 'react';
import { isRotorcraft } from '#core/airframe/airframe.ts';
import { cruiseCurrent } from '#core/airframe/performance.ts';
import { mean, spread } from '#core/analysis/spread.ts';
import {
  cellsFrom,
  currentFrom,
  currentScaleFromCharge,
  sagFrom,
  voltageScaleFrom,
} from '#core/calibration/power.ts';
import { settingOf } from '#core/settings/typed.ts';
import type { StreamRing } from '#link/streamRing.ts';
import { useSampled } from '../../live/hooks.ts';
import { useStreamRing } from '../../live/streams.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Lead } from '../Lead.tsx';
import { Discharge } from './Discharge.tsx';
import { Figure, TypedFigure } from './Figure.tsx';
import { useProven } from './useGestures.ts';

const HZ = 10;
/** Sag is looked for in the last so many seconds. */
const KEPT_S = 90;
const READ_S = 2;
/** After writing: shares that the board may be off by. */
const VOLTS_SHARE = 0.006;
const AMPS_SHARE = 0.03;
/** What a board and its receivers draw by themselves, A. */
const ALONE_A = 0.4;

/** What the board's converters say by themselves, mean of the last seconds; null where nothing came. */
function rawNow(ring: StreamRing) {
  const volts = ring.newest(0, READ_S * HZ);
  if (volts.length < HZ) return null;
  const amps = ring.newest(1, READ_S * HZ);
  return { volts: mean(volts), spread: spread(volts), amps: mean(amps) };
}

/** Voltage and current as the board measures them, against what is true. */
export default function VoltsStation() {
  const { ring, fault } = useStreamRing('battery', HZ, 2, KEPT_S);
  return (
    <>
      <Lead />
      {fault && (
        <p role="alert" className="mt-2 text-red">
          {fault}
        </p>
      )}
      <Volts ring={ring} />
      <Amps ring={ring} />
      <Sagging ring={ring} />
    </>
  );
}

function Volts({ ring }: { readonly ring: StreamRing }) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const dispatch = useAppDispatch();
  const proof = useProven('volts');
  const scale = settingOf(base, 'battery.scale') ?? 1;
  const now = useSampled(() => rawNow(ring), 250);
  const boardV = now ? now.volts * scale : 0;
  const [meter, setMeter] = useState<number | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const waits = 'battery.scale' in edits;
  const off = meter === null ? Number.NaN : boardV / meter - 1;
  const cells = boardV > 2 ? cellsFrom(boardV) : [];
  const set = settingOf(base, 'battery.cells') ?? airframe.battery.cells;
  const take = () => {
    if (meter === null || !now) return;
    const found = voltageScaleFrom(boardV, meter, scale, now.spread);
    if ('refused' in found) {
      setSaid(found.refused);
      return;
    }
    setSaid(null);
    if (Math.abs(off) <= VOLTS_SHARE) recordProof({ kind: 'volts', boardV, meterV: meter });
    else {
      dispatch(staged({ 'battery.scale': Math.round(found.scale * 1000) / 1000 }));
      // What was read before it was written proves nothing of what is written.
      setMeter(null);
    }
  };
  const seen = proof?.seen.kind === 'volts' ? proof.seen : null;
  return (
    <section className="mt-3 flex flex-wrap items-center gap-x-6 gap-y-2 border-t border-line pt-3">
      <div className="min-w-[260px] flex-1">
        <h2 className="font-semibold">Volts</h2>
        <p className="mt-1">
          <Figure value={boardV > 0 ? boardV.toFixed(2) : '–'} unit="V" words="says the board" />
          <TypedFigure
            label="The meter says"
            value={meter ?? 0}
            symbol="V"
            min={0}
            max={70}
            step={0.01}
            onChange={setMeter}
            words="says the meter"
          />
          {Number.isFinite(off) && boardV > 0 && (
            <Figure
              value={`${off >= 0 ? '+' : '−'}${(100 * Math.abs(off)).toFixed(1)}`}
              unit="%"
              words="the board is off"
            />
          )}
        </p>
        <p className="text-soft" role="status">
          {waits
            ? 'In the tray. Write it, and read the meter again.'
            : seen && meter === null
              ? `Seen: ${seen.boardV.toFixed(2)} V by the board, ${seen.meterV.toFixed(2)} V by the meter.`
              : boardV <= 2
                ? 'The board measures no battery.'
                : cells.length === 0
                  ? 'No whole number of cells has this voltage: the scale is far off, or a cell is dead.'
                  : cellWords(cells, boardV, set)}
        </p>
        {said && (
          <p className="text-amber" role="alert">
            {said}
          </p>
        )}
      </div>
      <Button
        kind={seen ? 'plain' : 'go'}
        disabled={meter === null || !(meter > 0) || boardV <= 2 || waits}
        onClick={take}
      >
        {Number.isFinite(off) && Math.abs(off) <= VOLTS_SHARE ? 'They agree' : 'Put into the tray'}
      </Button>
    </section>
  );
}

function cellWords(cells: readonly number[], volts: number, set: number): string {
  const [likely, ...others] = cells;
  const also =
    others.length > 0
      ? ` It could be ${others.map((n) => `${n} at ${(volts / n).toFixed(2)} V`).join(' or ')} as well: count them on the pack.`
      : '';
  const told = cells.includes(set)
    ? `${set} cells, as set, at ${(volts / set).toFixed(2)} V each.`
    : `Set are ${set} cells, which would be ${(volts / set).toFixed(2)} V each: more likely ${likely}.`;
  return `${told}${also}`;
}

function Amps({ ring }: { readonly ring: StreamRing }) {
  const base = useApp((s) => s.settings.base);
  const edits = useApp((s) => s.settings.edits);
  const dispatch = useAppDispatch();
  const proof = useProven('amps');
  const scale = settingOf(base, 'battery.currentScale') ?? 1;
  const offset = settingOf(base, 'battery.currentOffset') ?? 0;
  const now = useSampled(() => rawNow(ring), 250);
  const boardA = now ? (now.amps - offset) * scale : Number.NaN;
  const [alone, setAlone] = useState<{ boardA: number; knownA: number } | null>(null);
  const [aloneA, setAloneA] = useState(ALONE_A);
  const [loadA, setLoadA] = useState(8);
  const [charged, setCharged] = useState(0);
  const [said, setSaid] = useState<string | null>(null);
  const waits = 'battery.currentScale' in edits || 'battery.currentOffset' in edits;
  const known = aloneA + loadA;
  const agree = Math.abs(boardA / known - 1) < AMPS_SHARE;
  const stage = (found: { readonly scale: number; readonly offset?: number }) =>
    dispatch(
      staged({
        'battery.currentScale': Math.round(found.scale * 200) / 200,
        ...(found.offset === undefined || Number.isNaN(found.offset)
          ? {}
          : { 'battery.currentOffset': Math.round(found.offset * 20) / 20 }),
      }),
    );
  const loaded = () => {
    if (agree) {
      setSaid(null);
      recordProof({ kind: 'amps', boardA, knownA: known });
      return;
    }
    if (!alone) return;
    const found = currentFrom(alone, { boardA, knownA: known }, { scale, offset });
    if ('refused' in found) {
      setSaid(found.refused);
      return;
    }
    setSaid(null);
    stage(found);
  };
  const counted = useSampled(() => live('power')?.usedMah ?? 0, 500);
  const byCharger = () => {
    const found = currentScaleFromCharge(counted, charged, scale);
    if ('refused' in found) {
      setSaid(found.refused);
      return;
    }
    setSaid(null);
    if (Math.abs(counted / charged - 1) < AMPS_SHARE)
      recordProof({ kind: 'charge', countedMah: counted, chargedMah: charged });
    else {
      stage(found);
      setCharged(0);
    }
  };
  const seen = proof?.seen.kind === 'amps' ? proof.seen : null;
  return (
    <section className="mt-3 border-t border-line pt-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <div className="min-w-[260px] flex-1">
          <h2 className="font-semibold">Amperes</h2>
          <p className="mt-1">
            <Figure value={Number.isNaN(boardA) ? '–' : boardA.toFixed(2)} unit="A" words="says the board" />
            <TypedFigure
              label="The board alone draws"
              value={aloneA}
              symbol="A"
              min={0}
              max={20}
              step={0.05}
              onChange={setAloneA}
              words="board and radio alone"
            />
            <TypedFigure
              label="The load draws"
              value={loadA}
              symbol="A"
              min={0}
              max={200}
              step={0.1}
              onChange={setLoadA}
              words="the load, besides"
            />
          </p>
          <p className="text-soft" role="status">
            {waits
              ? 'In the tray. Write it, and put the load on again, or fly and charge once more.'
              : seen
                ? `Seen: ${seen.boardA.toFixed(1)} A by the board, ${seen.knownA.toFixed(1)} A known to flow.`
                : alone
                  ? `Alone it said ${alone.boardA.toFixed(2)} A. Now put the known load on.`
                  : 'First with nothing on but the board, then with a load that is known.'}
          </p>
        </div>
        <Button disabled={Number.isNaN(boardA) || waits} onClick={() => setAlone({ boardA, knownA: aloneA })}>
          It is alone
        </Button>
        <Button
          kind={seen ? 'plain' : 'go'}
          disabled={Number.isNaN(boardA) || waits || (!alone && !agree)}
          onClick={loaded}
        >
          {agree ? 'They agree' : 'The load is on'}
        </Button>
      </div>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-2 text-soft">
        Or from the charger: the board counted <span className="num">{counted.toFixed(0)}</span> mAh, the
        charger put back
        <NumberField
          label="The charger put back"
          value={charged}
          symbol="mAh"
          min={0}
          max={100000}
          step={1}
          onChange={setCharged}
        />
        <Button kind="flat" disabled={!(charged > 0) || waits} onClick={byCharger}>
          {charged > 0 && Math.abs(counted / charged - 1) < AMPS_SHARE ? 'They agree' : 'Take the charger’s'}
        </Button>
      </p>
      {said && (
        <p className="text-amber" role="alert">
          {said}
        </p>
      )}
    </section>
  );
}

function Sagging({ ring }: { readonly ring: StreamRing }) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const base = useApp((s) => s.settings.base);
  const values = useApp(selectValues);
  const proof = useProven('sag');
  const scale = settingOf(base, 'battery.scale') ?? 1;
  const aScale = settingOf(base, 'battery.currentScale') ?? 1;
  const aOffset = settingOf(base, 'battery.currentOffset') ?? 0;
  const sag = useSampled(() => {
    const n = KEPT_S * HZ;
    const volts = Array.from(ring.newest(0, n), (v) => v * scale);
    const amps = Array.from(ring.newest(1, n), (a) => (a - aOffset) * aScale);
    return volts.length > 2 * HZ ? sagFrom(volts, amps) : null;
  }, 1000);
  const found = sag && !('refused' in sag) ? sag : null;
  const seen = proof?.seen.kind === 'sag' ? proof.seen : null;
  const cells = settingOf(values, 'battery.cells') ?? airframe.battery.cells;
  const described = airframe.battery.cells * airframe.battery.cellResistanceOhm;
  const ohms = seen?.ohms ?? found?.ohms ?? described;
  const cruiseA = useMemo(() => cruiseCurrent(airframe, values), [airframe, values]);
  return (
    <section className="mt-3 border-t border-line pt-3">
      <div className="flex flex-wrap items-center gap-x-6 gap-y-2">
        <div className="min-w-[260px] flex-1">
          <h2 className="font-semibold">Sag, and how long it lasts</h2>
          <p className="mt-1">
            <Figure
              value={seen || found ? ohms.toFixed(3) : '–'}
              unit="Ω"
              words={
                seen
                  ? 'seen, inside the battery'
                  : found
                    ? 'so far, inside the battery'
                    : 'inside the battery'
              }
            />
            <Figure value={described.toFixed(3)} unit="Ω" words="as the craft describes it" />
            <Figure
              value={cruiseA?.toFixed(1) ?? '–'}
              unit="A"
              words={isRotorcraft(airframe) ? 'in hover' : 'at cruise'}
            />
          </p>
          <p className="text-soft" role="status">
            {found
              ? found.ohms > 1.6 * described
                ? 'Far more than the craft’s battery has: old, cold, or a connector that gets warm.'
                : `From a load of up to ${found.mostA.toFixed(0)} A.`
              : sag && 'refused' in sag
                ? sag.refused
                : 'Comes by itself from the load above, or from a run-up.'}
          </p>
        </div>
        <Button
          kind={seen ? 'plain' : 'go'}
          disabled={!found}
          onClick={() => found && recordProof({ kind: 'sag', ohms: found.ohms, mostA: found.mostA })}
        >
          {seen ? 'Keep it anew' : 'Keep it as seen'}
        </Button>
      </div>
      {cruiseA !== null && (
        <Discharge airframe={airframe} values={values} cells={cells} ohms={ohms} amps={cruiseA} />
      )}
    </section>
  );
}
