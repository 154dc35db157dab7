import { memo, useDeferredValue, useEffect, useMemo, useRef, useState } from 'react';
import { causeWords, historyBytes, prunable, type Snapshot, searchHistory } from '#core/formats/history.ts';
import { history } from '../../history/index.ts';
import { when } from '../../history/words.ts';
import { setupChosen } from '../../store/craftSlice.ts';
import { compared } from '../../store/historySlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { FileInput, JSON_FILES } from '../../ui/FileInput.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { SideBySide } from './SideBySide.tsx';

/** So many of each board stay when old ones are let go. */
const KEEP_OF_EACH = 20;

/** Everything the boards ever held: a line of time to pick from, and what differs. */
export default function KeepStation() {
  const { snapshots, a } = useApp((s) => s.history);
  const [query, setQuery] = useState('');
  const [fault, setFault] = useState<string | null>(null);
  // What is typed is shown at once; what it finds may come a frame later.
  const asked = useDeferredValue(query);
  const found = useMemo(() => searchHistory(snapshots, asked), [snapshots, asked]);
  const picked = snapshots.find((s) => s.id === a) ?? null;
  return (
    <div className="flex h-full min-h-[480px] flex-col">
      <Lead />
      <SetupBar onFault={setFault} />
      {fault && <Notice>{fault}</Notice>}
      <div className="mt-3 grid min-h-0 flex-1 gap-6 xl:grid-cols-[268px_minmax(0,1fr)]">
        <div className="flex min-h-0 flex-col">
          <input
            type="search"
            aria-label="Search what was kept"
            placeholder="craft, board, set-up, note, date"
            value={query}
            onChange={(e) => setQuery(e.target.value)}
            className="rounded-[4px] border border-line bg-sheet px-2 py-1"
          />
          {snapshots.length === 0 ? (
            <p className="mt-4 text-soft">
              Nothing yet. Plug a board in: what it holds is kept before anything can be done to it.
            </p>
          ) : (
            <TimeLine list={found} />
          )}
          <Footer snapshots={snapshots} />
        </div>
        <div className="flex min-h-0 min-w-0 flex-col">
          {picked && <Particulars key={picked.id} snapshot={picked} />}
          <SideBySide />
        </div>
      </div>
    </div>
  );
}

/** The set-up worked on, keeping by hand, and files. */
const SetupBar = memo(function SetupBar({ onFault }: { readonly onFault: (why: string | null) => void }) {
  const file = useApp((s) => s.craft.file);
  const snapshots = useApp((s) => s.history.snapshots);
  const { identity, native } = useApp((s) => s.board);
  const base = useApp((s) => s.settings.base);
  const fromBoard = useApp((s) => s.settings.baseFrom === 'board');
  const dispatch = useAppDispatch();
  const input = useRef<HTMLInputElement>(null);
  const [naming, setNaming] = useState(false);
  const setup = file?.setup ?? '';
  const setups = [
    ...new Set(['', setup, ...snapshots.filter((s) => s.craft === file?.name).map((s) => s.setup)]),
  ];
  return (
    <div className="mt-2.5 flex flex-wrap items-center gap-x-4 gap-y-2 text-soft">
      {naming ? (
        <form
          onSubmit={(e) => {
            e.preventDefault();
            const name = new FormData(e.currentTarget).get('setup');
            if (typeof name === 'string') dispatch(setupChosen(name.trim().slice(0, 60)));
            setNaming(false);
          }}
        >
          <label>
            New set-up{' '}
            <input
              name="setup"
              required
              maxLength={60}
              // The person has just asked to type a name.
              // biome-ignore lint/a11y/noAutofocus: see above
              autoFocus
              onKeyDown={(e) => e.key === 'Escape' && setNaming(false)}
              className="w-44 border-contour border-b border-dotted bg-transparent text-ink"
            />
          </label>{' '}
          <Button type="submit">Name it</Button>
        </form>
      ) : (
        <label>
          Set-up{' '}
          <Select
            value={setup}
            onChange={(e) => {
              if (e.target.value === '\n') setNaming(true);
              else dispatch(setupChosen(e.target.value));
            }}
          >
            {setups.map((s) => (
              <option key={s} value={s}>
                {s === '' ? 'the usual one' : s}
              </option>
            ))}
            <option value={'\n'}>another…</option>
          </Select>
        </label>
      )}
      <Button
        disabled={!identity || !fromBoard}
        title={identity && fromBoard ? undefined : 'Needs a board that was read'}
        onClick={() => identity && void history.keep('by-hand', identity, native ?? base)}
      >
        Keep the board as it is
      </Button>
      <Button onClick={() => input.current?.click()}>Bring in a file…</Button>
      <FileInput
        ref={input}
        label="History file"
        accept={JSON_FILES}
        onFile={(file) =>
          void file
            .text()
            .then((text) => history.importText(text))
            .then(onFault)
        }
      />
    </div>
  );
});

const ROW_PX = 48;
/** Rows drawn beyond either edge of what is seen. */
const SPARE = 6;

/** Snapshots down a line of time, newest first; each named set-up on a line of its own. Only what is seen is drawn. */
const TimeLine = memo(function TimeLine({ list }: { readonly list: readonly Snapshot[] }) {
  const a = useApp((s) => s.history.a);
  const dispatch = useAppDispatch();
  const box = useRef<HTMLDivElement>(null);
  const [view, setView] = useState({ top: 0, height: 400 });
  useEffect(() => {
    const el = box.current;
    if (!el) return;
    const look = () => setView({ top: el.scrollTop, height: el.clientHeight });
    look();
    const size = new ResizeObserver(look);
    size.observe(el);
    el.addEventListener('scroll', look, { passive: true });
    return () => {
      size.disconnect();
      el.removeEventListener('scroll', look);
    };
  }, []);
  const lanes = useMemo(() => [...new Set(list.map((s) => s.setup))].sort(), [list]);
  const first = Math.max(0, Math.floor(view.top / ROW_PX) - SPARE);
  const shown = list.slice(first, Math.ceil((view.top + view.height) / ROW_PX) + SPARE);
  const pick = (index: number) => {
    const s = list[Math.min(list.length - 1, Math.max(0, index))];
    if (s) dispatch(compared({ a: s.id }));
  };
  const at = list.findIndex((s) => s.id === a);
  useEffect(() => {
    const el = box.current;
    if (!el || at < 0) return;
    if (at * ROW_PX < el.scrollTop) el.scrollTop = at * ROW_PX;
    if ((at + 1) * ROW_PX > el.scrollTop + el.clientHeight)
      el.scrollTop = (at + 1) * ROW_PX - el.clientHeight;
  }, [at]);
  return (
    <div
      ref={box}
      role="listbox"
      aria-label="What was kept, newest first"
      aria-activedescendant={at >= 0 ? `snapshot-${at}` : undefined}
      tabIndex={0}
      className="mt-2 max-h-72 min-h-32 flex-1 overflow-y-auto xl:max-h-none"
      onKeyDown={(e) => {
        const by = { ArrowDown: 1, ArrowUp: -1, PageDown: 8, PageUp: -8 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        pick(at + by);
      }}
    >
      <div className="relative" style={{ height: list.length * ROW_PX }}>
        {shown.map((s, k) => {
          return (
            <Moment
              key={s.id}
              snapshot={s}
              index={first + k}
              lane={lanes.indexOf(s.setup)}
              lanes={lanes.length}
              chosen={s.id === a}
            />
          );
        })}
      </div>
    </div>
  );
});

/** One snapshot on the line of time. */
const Moment = memo(function Moment({
  snapshot: s,
  index,
  lane,
  lanes,
  chosen,
}: {
  readonly snapshot: Snapshot;
  readonly index: number;
  readonly lane: number;
  readonly lanes: number;
  readonly chosen: boolean;
}) {
  const dispatch = useAppDispatch();
  const pick = () => dispatch(compared({ a: s.id }));
  return (
    <div
      id={`snapshot-${index}`}
      data-id={s.id}
      role="option"
      aria-selected={chosen}
      tabIndex={-1}
      className={`absolute inset-x-0 flex cursor-pointer gap-2 rounded-[4px] py-1 pr-2 ${chosen ? 'bg-lake-wash' : 'hover:bg-paper'}`}
      style={{ top: index * ROW_PX, height: ROW_PX }}
      onClick={pick}
      onKeyDown={(e) => e.key === 'Enter' && pick()}
    >
      <svg width={16 + 12 * lanes} height={ROW_PX} aria-hidden="true" className="-my-1 shrink-0">
        {Array.from({ length: lanes }, (_, n) => (
          <path
            key={n}
            d={`M${9 + 12 * n} 0V${ROW_PX}`}
            stroke="var(--contour)"
            strokeDasharray={n === 0 ? undefined : '2 3'}
          />
        ))}
        <circle
          cx={9 + 12 * lane}
          cy={15}
          r={s.cause === 'met' ? 4 : 5}
          fill={s.cause === 'met' ? 'var(--sheet)' : 'var(--forest)'}
          stroke="var(--forest)"
          strokeWidth={1.6}
        />
      </svg>
      <span className="min-w-0 leading-[18px]">
        <span className="block truncate">
          {when(s.lastAt)} <span className="text-soft">{causeWords[s.cause]}</span>
        </span>
        <span className="block truncate text-[12.5px] text-faint">
          {s.setup ? `${s.setup}: ` : ''}
          {s.note || `${s.craft || 'no craft'} on ${s.board}, ${s.version}`}
        </span>
      </span>
    </div>
  );
});

const Footer = memo(function Footer({ snapshots }: { readonly snapshots: readonly Snapshot[] }) {
  const gone = prunable(snapshots, KEEP_OF_EACH);
  if (snapshots.length === 0) return null;
  return (
    <div className="mt-2 border-line border-t pt-2 text-[13px] text-soft">
      <span className="num">{snapshots.length}</span> kept,{' '}
      <span className="num">{(historyBytes(snapshots) / 1e6).toFixed(2)} MB</span>.{' '}
      <TextButton onClick={() => void history.exportFile(snapshots)}>Save all to a file</TextButton>
      {gone.length > 0 && (
        <TextButton
          className="block"
          title="Those with a note or in a named set-up stay."
          onClick={() => void history.letGo(gone)}
        >
          Let go of {gone.length} old ones
        </TextButton>
      )}
    </div>
  );
});

/** What is known of the picked snapshot, with its note. */
function Particulars({ snapshot: s }: { readonly snapshot: Snapshot }) {
  return (
    <div className="mb-2 border-line border-b pb-2">
      <p>
        <b className="font-semibold">{s.board}</b> revision {s.revision}, serial{' '}
        <span className="code">{s.serial}</span>, {s.firmware} <span className="num">{s.version}</span>
        {s.at !== s.lastAt && <span className="text-soft">; like this since {when(s.at)}</span>}
      </p>
      <div className="mt-1 flex items-baseline gap-4">
        <input
          aria-label="Note on this snapshot"
          placeholder="A note, so that you know it again"
          defaultValue={s.note}
          maxLength={2000}
          className="min-w-0 flex-1 border-contour border-b border-dotted bg-transparent"
          onBlur={(e) => e.target.value !== s.note && void history.noteOn(s.id, { note: e.target.value })}
          onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        />
        <TextButton tone="soft" onClick={() => void history.exportFile([s])}>
          Save to a file
        </TextButton>
        <TextButton tone="soft" onClick={() => void history.letGo([s])}>
          Let go
        </TextButton>
      </div>
    </div>
  );
}
