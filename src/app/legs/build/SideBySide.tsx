import { memo, useEffect, useMemo, useState } from 'react';
import { readCraftFile } from '#core/formats/craftFile.ts';
import type { Snapshot } from '#core/formats/history.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { compareSettings, type Difference } from '#core/settings/compare.ts';
import type { MigrationReport } from '#core/settings/migration/migrate.ts';
import { valueText } from '#core/settings/valueText.ts';
import { history } from '../../history/index.ts';
import { sideName } from '../../history/words.ts';
import { compared, type Side } from '../../store/historySlice.ts';
import { selectCatalogue, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileWords, JSON_FILES } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { VirtualList } from '../../ui/VirtualList.tsx';
import { workshop } from '../../workers/index.ts';
import { CarryReport } from './CarryReport.tsx';

/** Settings of one side, with how they were carried over when another firmware version held them. */
interface Shown {
  readonly of: Side | null;
  readonly values: Values;
  /** How they were carried over from another version; null when they were kept on this one. */
  readonly carried: MigrationReport | null;
}

/** No question of a migration was answered yet. */
const NOTHING_CHOSEN: Readonly<Record<string, number>> = {};

/** The settings of a side as this firmware has them; null while they are looked up, a sentence when they cannot be. */
function useSide(
  side: Side | null,
  fromFile: Values | null,
  chosen: Readonly<Record<string, number>>,
): Shown | string | null {
  const snapshot = useApp((s) => s.history.snapshots.find((x) => x.id === side));
  const version = useApp((s) => s.settings.version);
  const base = useApp((s) => s.settings.base);
  const draft = useApp(selectValues);
  const [found, setFound] = useState<Shown | string | null>(null);
  useEffect(() => {
    let current = true;
    const look = async (): Promise<Shown | string | null> => {
      if (fromFile) return { of: side, values: fromFile, carried: null };
      if (side === null) return null;
      if (side === 'board') return { of: side, values: base, carried: null };
      if (side === 'draft') return { of: side, values: draft, carried: null };
      const values = await history.contentOf(side);
      if (!values) return 'Its settings are not in this browser any more.';
      if (!snapshot || snapshot.version === version) return { of: side, values, carried: null };
      const report = await workshop().carry(values, snapshot.version, version, chosen);
      return report
        ? { of: side, values: report.values, carried: report }
        : `Its settings are of ${snapshot.firmware} ${snapshot.version}, which cannot be compared with ${version}.`;
    };
    void look().then((f) => current && setFound(f));
    return () => {
      current = false;
    };
  }, [side, fromFile, chosen, snapshot, version, base, draft]);
  // What belongs to the side before is not shown under this one's name.
  return typeof found === 'object' && found?.of !== side ? null : found;
}

/** Differences in whose name or meaning every word of the query is found. */
function searched(list: readonly Difference[], query: string): Difference[] {
  const words = query.toLowerCase().split(/\s+/).filter(Boolean);
  return list.filter((d) => {
    const hay =
      `${d.key} ${d.entry?.label ?? ''} ${d.entry?.meaning ?? ''} ${d.entry?.group ?? ''}`.toLowerCase();
    return words.every((w) => hay.includes(w));
  });
}

/** Two states setting by setting: only what differs, and any part of the left one to take into the tray. */
export const SideBySide = memo(function SideBySide() {
  const { a, b, snapshots } = useApp((s) => s.history);
  const catalogue = useApp(selectCatalogue);
  const dispatch = useAppDispatch();
  const [file, setFile] = useState<{ name: string; values: Values } | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const [filter, setFilter] = useState('');
  const [chosen, setChosen] = useState<Readonly<Record<string, number>>>(NOTHING_CHOSEN);
  const [asking, setAsking] = useState(false);
  const [left, right] = [useSide(a, file?.values ?? null, chosen), useSide(b, null, NOTHING_CHOSEN)];
  const differing = useMemo(
    () =>
      left && right && typeof left === 'object' && typeof right === 'object'
        ? compareSettings(left.values, right.values, catalogue)
        : null,
    [left, right, catalogue],
  );
  const shown = useMemo(() => searched(differing ?? [], filter), [differing, filter]);
  const open = async (f: File) => {
    const read = readCraftFile(await f.text());
    setFault(read.ok ? null : read.why);
    if (read.ok) setFile({ name: read.craft.name, values: { ...read.craft.settings, ...read.craft.edits } });
  };
  const takeable = shown.filter((d) => d.a !== undefined && d.entry);
  return (
    <section
      aria-label="What differs"
      data-from={left && typeof left === 'object' ? left.of : undefined}
      className="flex min-h-0 flex-1 flex-col"
    >
      <div className="flex flex-wrap items-baseline gap-x-3 gap-y-1 text-soft">
        <span>
          From{' '}
          <b className="font-medium text-ink">
            {file ? `the file of ${file.name}` : a ? sideName(a, snapshots) : 'nothing picked yet'}
          </b>{' '}
          to
        </span>
        <Select
          aria-label="Compare with"
          className="max-w-64"
          value={b}
          onChange={(e) => dispatch(compared({ b: e.target.value }))}
        >
          <option value="draft">{sideName('draft', snapshots)}</option>
          <option value="board">{sideName('board', snapshots)}</option>
          <SnapshotOptions snapshots={snapshots} />
        </Select>
        <FileWords label="Craft file to compare" accept={JSON_FILES} onFile={(chosen) => void open(chosen)}>
          {file ? 'another craft' : 'from another craft’s file…'}
        </FileWords>
        {file && <TextButton onClick={() => setFile(null)}>back to what was kept</TextButton>}
      </div>
      {[left, right, fault].map((x) => typeof x === 'string' && <Notice key={x}>{x}</Notice>)}
      {left && typeof left === 'object' && left.carried && (
        <p className="mt-1 text-amber">
          It was kept on Pfad {left.carried.from}; its settings are shown as {left.carried.to} has them.{' '}
          <TextButton onClick={() => setAsking(true)}>See how each was carried over</TextButton>
          {asking && (
            <CarryReport
              report={left.carried}
              onChoose={(id, option) => setChosen((c) => ({ ...c, [id]: option }))}
              onClose={() => setAsking(false)}
            />
          )}
        </p>
      )}
      {differing && (
        <>
          <div className="mt-2 flex items-center gap-3">
            <input
              type="search"
              aria-label="Search the differences"
              placeholder="name or meaning"
              value={filter}
              onChange={(e) => setFilter(e.target.value)}
              className="w-36 rounded-[4px] border border-line bg-sheet px-2 py-1"
            />
            <span className="whitespace-nowrap text-soft" role="status">
              {differing.length === 0
                ? 'They are the same in every setting.'
                : `${shown.length === differing.length ? '' : `${shown.length} of `}${differing.length} ${differing.length === 1 ? 'setting differs' : 'settings differ'}.`}
            </span>
            {takeable.length > 0 && (
              <Button
                className="ml-auto"
                onClick={() => dispatch(staged(Object.fromEntries(takeable.map((d) => [d.key, d.a!]))))}
              >
                Take {takeable.length === 1 ? 'it' : `all ${takeable.length}`}
              </Button>
            )}
          </div>
          {differing.length > 0 && (
            <p className="mt-1 text-[13px] text-soft">
              Left as it is in{' '}
              {file ? `the file of ${file.name}` : a ? sideName(a, snapshots) : 'the one picked'}; right as it
              is in {sideName(b, snapshots)}. What is taken goes from left into the tray, and takes the place
              of the right.
            </p>
          )}
          <Differences list={shown} />
        </>
      )}
      {!differing && !a && !file && (
        <p className="mt-6 max-w-[420px] text-soft">
          Pick a moment on the line of time at the left. What was different then is shown here, and any part
          of it can be taken back.
        </p>
      )}
    </section>
  );
});

/** So many of the newest can be picked as the other side. */
const OTHER_SIDES = 100;

const SnapshotOptions = memo(function SnapshotOptions({
  snapshots,
}: {
  readonly snapshots: readonly Snapshot[];
}) {
  const newest = snapshots.slice(0, OTHER_SIDES);
  return newest.map((s) => (
    <option key={s.id} value={s.id}>
      {sideName(s.id, newest)}
    </option>
  ));
});

/** A group’s name, or one setting of it. */
type Row = { readonly group: string } | { readonly difference: Difference };

const groupOf = (d: Difference) => d.entry?.group ?? 'Unknown to this firmware';

const Differences = memo(function Differences({ list }: { readonly list: readonly Difference[] }) {
  const groups = [...new Set(list.map(groupOf))];
  const rows = groups.flatMap((group): Row[] => [
    { group },
    ...list.filter((d) => groupOf(d) === group).map((difference) => ({ difference })),
  ]);
  return (
    <VirtualList
      label="Differences"
      className="mt-2 min-h-0 flex-1"
      items={rows}
      keyOf={(r) => ('group' in r ? `group ${r.group}` : r.difference.key)}
      rowPx={31}
      row={(r) =>
        'group' in r ? <h2 className="label pt-2">{r.group}</h2> : <DifferenceRow difference={r.difference} />
      }
    />
  );
});

const DifferenceRow = memo(function DifferenceRow({ difference: d }: { readonly difference: Difference }) {
  const units = useApp((s) => s.ui.units);
  const dispatch = useAppDispatch();
  return (
    <div className="border-line border-b py-1">
      <div className="grid grid-cols-[minmax(0,1fr)_110px_14px_110px_52px] items-baseline gap-2">
        <span className="truncate" title={d.key}>
          {d.entry?.label ?? d.key}
        </span>
        <b className="num truncate text-right font-medium">
          {d.a === undefined ? 'not there' : valueText(d.entry, d.a, units)}
        </b>
        <span className="text-center text-faint" aria-hidden="true">
          →
        </span>
        <span className="num truncate text-soft">
          {d.b === undefined ? 'not there' : valueText(d.entry, d.b, units)}
        </span>
        {d.entry && d.a !== undefined ? (
          <TextButton
            aria-label={`Take ${d.entry.label} into the tray`}
            tone="forest"
            onClick={() => dispatch(staged({ [d.key]: d.a! }))}
          >
            take
          </TextButton>
        ) : (
          <span />
        )}
      </div>
      {d.entry && <p className="text-[12.5px] text-faint leading-4">{d.entry.meaning}</p>}
    </div>
  );
});
