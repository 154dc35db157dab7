import { useEffect, useState } from 'react';
import type { Change } from '#core/settings/draft.ts';
import { restartBoard, writeToBoard } from '../session.ts';
import { writeChanged } from '../store/boardSlice.ts';
import { selectCatalogue, selectChanges } from '../store/selectors.ts';
import { dropped, redone, undone } from '../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { Button } from '../ui/Button.tsx';
import { Panel } from '../ui/Panel.tsx';
import { valueText } from '../ui/SettingField.tsx';

/** What waits to be written, and what the board read back after a write. */
export function ChangeTray() {
  const changes = useApp(selectChanges);
  const write = useApp((s) => s.board.write);
  const ready = useApp((s) => s.board.link === 'ready');
  const canUndo = useApp((s) => s.settings.draft.past.length > 0);
  const canRedo = useApp((s) => s.settings.draft.future.length > 0);
  const [reviewing, setReviewing] = useState(false);
  const dispatch = useAppDispatch();
  const edits = useApp((s) => s.settings.draft.edits);
  // What the last write said is true until the next edit.
  useEffect(() => {
    if (Object.keys(edits).length > 0 && write.kind === 'written') dispatch(writeChanged({ kind: 'idle' }));
  }, [edits, write.kind, dispatch]);
  const refused = write.kind === 'refused';
  return (
    <section
      aria-label="Change tray"
      className="flex h-12 shrink-0 items-center gap-3.5 border-line border-t bg-paper px-5"
    >
      <span className="whitespace-nowrap font-semibold" data-testid="tray-count">
        {changes.length === 0
          ? 'No edits wait'
          : `${changes.length} ${changes.length === 1 ? 'edit waits' : 'edits wait'}`}
      </span>
      <span className="flex min-w-0 flex-1 gap-4 overflow-hidden" aria-live="polite">
        {write.kind === 'writing' && (
          <span className="text-lake">Writing {write.count} settings, then reading them back…</span>
        )}
        {write.kind === 'written' && changes.length === 0 && (
          <span className="text-forest">
            The board read back all {write.count} as sent.{' '}
            {write.restartNeeded && (
              <>
                Some take effect after a restart.{' '}
                <button type="button" className="underline" onClick={() => void restartBoard()}>
                  Restart the board
                </button>
              </>
            )}
          </span>
        )}
        {refused && (
          <button
            type="button"
            className="truncate text-red underline decoration-dotted"
            onClick={() => setReviewing(true)}
          >
            Refused, nothing was changed on the board: {write.refusals[0]?.why}
            {write.refusals.length > 1 ? ` And ${write.refusals.length - 1} more.` : ''}
          </button>
        )}
        {write.kind === 'failed' && (
          <span className="truncate text-red" title={write.why}>
            {write.why}
          </span>
        )}
        {(write.kind === 'idle' || (write.kind === 'written' && changes.length > 0)) &&
          changes.slice(0, 3).map((c) => <ChangeText key={c.key} change={c} />)}
      </span>
      <Button kind="flat" disabled={!canUndo} onClick={() => dispatch(undone())} title="Ctrl+Z">
        Undo
      </Button>
      <Button kind="flat" disabled={!canRedo} onClick={() => dispatch(redone())} title="Ctrl+Shift+Z">
        Redo
      </Button>
      <Button disabled={changes.length === 0} onClick={() => setReviewing(true)}>
        Review
      </Button>
      <Button
        kind="go"
        disabled={changes.length === 0 || write.kind === 'writing' || !ready}
        title={ready ? 'Ctrl+S' : 'Needs a board on the cable'}
        onClick={() => void writeToBoard()}
      >
        Write to board
      </Button>
      <Review open={reviewing} onClose={() => setReviewing(false)} changes={changes} />
    </section>
  );
}

function ChangeText({ change }: { readonly change: Change }) {
  const entry = useApp(selectCatalogue).entry(change.key);
  const units = useApp((s) => s.ui.units);
  return (
    <span className="flex items-baseline gap-1.5 whitespace-nowrap text-soft">
      {entry?.label}
      <s className="text-faint">{valueText(entry, change.was, units)}</s>
      <b className="font-medium text-ink">{valueText(entry, change.willBe, units)}</b>
    </span>
  );
}

function Review({
  open,
  onClose,
  changes,
}: {
  readonly open: boolean;
  readonly onClose: () => void;
  readonly changes: readonly Change[];
}) {
  const catalogue = useApp(selectCatalogue);
  const units = useApp((s) => s.ui.units);
  const write = useApp((s) => s.board.write);
  const dispatch = useAppDispatch();
  const why = new Map(write.kind === 'refused' ? write.refusals.map((r) => [r.key, r.why]) : []);
  return (
    <Panel
      open={open}
      onClose={onClose}
      side="right"
      title="What would be written"
      lead="All of it together, or nothing. The board reads back what it stored."
    >
      {changes.length === 0 && <p className="text-soft">No edits wait.</p>}
      {why.has('') && (
        <p role="alert" className="mb-2 rounded-[4px] bg-red-wash px-3 py-2 text-red">
          {why.get('')}
        </p>
      )}
      <ul>
        {changes.map((c) => {
          const entry = catalogue.entry(c.key);
          return (
            <li key={c.key} className="border-line border-b py-2">
              <div className="flex items-baseline gap-2">
                <span className="font-medium">{entry?.label ?? c.key}</span>
                <span className="ml-auto flex gap-2">
                  <s className="num text-faint">{valueText(entry, c.was, units)}</s>
                  <b className="num font-medium">{valueText(entry, c.willBe, units)}</b>
                </span>
              </div>
              <div className="flex text-[13px] text-soft">
                {entry?.effect === 'restart' ? 'takes effect after a restart' : 'takes effect at once'}
                <button
                  type="button"
                  className="ml-auto underline decoration-dotted"
                  onClick={() => dispatch(dropped([c.key]))}
                >
                  Drop
                </button>
              </div>
              {why.has(c.key) && <p className="text-red text-sm">Refused: {why.get(c.key)}</p>}
            </li>
          );
        })}
      </ul>
      {changes.length > 0 && (
        <Button className="mt-3" onClick={() => dispatch(dropped(changes.map((c) => c.key)))}>
          Drop all
        </Button>
      )}
    </Panel>
  );
}
