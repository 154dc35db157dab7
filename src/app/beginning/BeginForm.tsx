import { useMemo, useState } from 'react';
import { kindNames, kinds } from '#core/airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { flock, plainCraft } from '#core/airframe/library.ts';
import { type CraftSize, scaledTo, sizeOf } from '#core/airframe/scaled.ts';
import { boardTitle } from '#core/board/boardRef.ts';
import { boards } from '#core/board/boards.ts';
import type { UnitId } from '#core/units/units.ts';
import { CraftPlan } from '../drawing/CraftPlan.tsx';
import { useApp } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Notice } from '../ui/Notice.tsx';
import { QuantityField } from '../ui/Quantity.tsx';
import { Select } from '../ui/Select.tsx';
import { beginCraft } from './begin.ts';

/** What a craft is begun from: a plain one of a kind, or one of the group's. */
const beginnings: readonly { readonly id: string; readonly name: string; readonly make: () => Airframe }[] = [
  ...kinds.map((k) => ({ id: k, name: kindNames[k], make: () => plainCraft(k) })),
  ...flock.map((a) => ({ id: a.name, name: a.name, make: () => a as Airframe })),
];

type Measured = Exclude<keyof CraftSize, 'name'>;
/** Range in the unit that is shown in metric, and step. The schema of the craft is narrower for some of them together. */
const measures: readonly {
  readonly id: Measured;
  readonly name: string;
  readonly unit: UnitId;
  /** Shown unit over kept unit. */
  readonly by: number;
  readonly range: readonly [number, number, number];
}[] = [
  { id: 'massKg', name: 'Mass ready to fly', unit: 'kg', by: 1, range: [0.05, 50, 0.05] },
  { id: 'propDiameterM', name: 'Propeller diameter', unit: 'mm', by: 1000, range: [25, 1000, 5] },
  { id: 'kvRpmPerV', name: 'Motor, rpm per volt', unit: 'none', by: 1, range: [50, 10_000, 10] },
  { id: 'cells', name: 'Battery, cells in series', unit: 'none', by: 1, range: [1, 14, 1] },
  { id: 'capacityMah', name: 'Battery capacity', unit: 'mah', by: 1, range: [50, 100_000, 50] },
];

/** A craft of one's own from what a person knows of it at once, drawn as it is typed. */
export function BeginForm({
  busy,
  onBegin,
}: {
  readonly busy: boolean;
  readonly onBegin: (what: () => Promise<unknown>) => Promise<void>;
}) {
  const [from, setFrom] = useState(beginnings[0]!);
  const like = useMemo(() => from.make(), [from]);
  const [size, setSize] = useState<CraftSize>(() => sizeOf(like));
  const [target, setTarget] = useState(boards[0]!.target);
  const [site, setSite] = useState('');
  const sites = useApp((s) => s.site.names);
  const made = useMemo(() => {
    try {
      return { ok: true, airframe: scaledTo(like, size) } as const;
    } catch (error) {
      return { ok: false, why: (error as Error).message } as const;
    }
  }, [like, size]);
  const rotors = isRotorcraft(like);
  const field = 'block text-soft';
  return (
    <form
      aria-label="A craft of your own"
      className="mt-4 rounded-[4px] border border-line bg-sheet px-5 pt-4 pb-5"
      onSubmit={(e) => {
        e.preventDefault();
        if (made.ok)
          void onBegin(() =>
            beginCraft({ airframe: made.airframe, target, site: site === '' ? undefined : site }),
          );
      }}
    >
      <div className="grid gap-6 min-[860px]:grid-cols-[minmax(0,1fr)_300px]">
        <div>
          {made.ok ? (
            <CraftPlan airframe={made.airframe} className="h-[300px] w-full">
              <QuantityField
                label={rotors ? 'Motor to opposite motor' : 'Span'}
                size="large"
                unit="m"
                value={size.acrossM}
                min={0.05}
                max={15}
                step={0.01}
                onChange={(acrossM) => setSize({ ...size, acrossM })}
              />
            </CraftPlan>
          ) : (
            <Notice>{made.why} Type another size, or begin from another kind.</Notice>
          )}
          <p className="mt-2 text-[13px] text-faint">
            Everything else follows from these numbers and that of its kind; each part can be given its own
            dimensions at The airframe.
          </p>
        </div>
        <div className="grid grid-cols-2 gap-x-4 gap-y-3 self-start">
          <label className={`${field} col-span-2`}>
            Name
            <input
              value={size.name}
              maxLength={80}
              onChange={(e) => setSize({ ...size, name: e.target.value })}
              className="block w-full rounded-[3px] border-contour border-b border-dotted bg-transparent font-medium text-[16px] text-ink"
            />
          </label>
          <label className={`${field} col-span-2`}>
            Begin from
            <Select
              className="mt-0.5 block w-full"
              value={from.id}
              onChange={(e) => {
                const next = beginnings.find((b) => b.id === e.target.value)!;
                setFrom(next);
                setSize(sizeOf(next.make()));
              }}
            >
              <optgroup label="A plain one">
                {beginnings.slice(0, kinds.length).map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.name}
                  </option>
                ))}
              </optgroup>
              <optgroup label="One of the group’s">
                {beginnings.slice(kinds.length).map((b) => (
                  <option key={b.id} value={b.id}>
                    {b.name}
                  </option>
                ))}
              </optgroup>
            </Select>
          </label>
          {measures.map(({ id, name, unit, by, range: [min, max, step] }) => (
            <div key={id} className={field}>
              <span className="block">{name}</span>
              <QuantityField
                label={name}
                unit={unit}
                value={size[id] * by}
                min={min}
                max={max}
                step={step}
                onChange={(v) => setSize({ ...size, [id]: v / by })}
              />
            </div>
          ))}
          <label className={`${field} col-span-2`}>
            Board, in hand or to be bought
            <Select
              className="mt-0.5 block w-full"
              value={target}
              onChange={(e) => setTarget(e.target.value)}
            >
              {boards.map((b) => (
                <option key={b.target} value={b.target}>
                  {boardTitle(b)}
                </option>
              ))}
            </Select>
            <span className="block text-[13px] text-faint">
              Another one takes its place when it is plugged in.
            </span>
          </label>
          <label className={`${field} col-span-2`}>
            Where it flies
            <Select className="mt-0.5 block w-full" value={site} onChange={(e) => setSite(e.target.value)}>
              <option value="">said later</option>
              {sites.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </Select>
          </label>
        </div>
      </div>
      <Button type="submit" kind="go" className="mt-4" disabled={busy || !made.ok || size.name.trim() === ''}>
        Begin
      </Button>
    </form>
  );
}
