import { lazy, Suspense, useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import type { Change } from '#core/settings/draft.ts';
import { valueTexts } from '#core/settings/valueText.ts';
import { nextToDo, pathOf } from '../legs/legs.ts';
import { restartBoard, writeToBoard } from '../session.ts';
import { writeChanged } from '../store/boardSlice.ts';
import { selectCatalogue, selectChanges, selectProgress } from '../store/selectors.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { redone, stepBack, stepOn, undone } from '../store/timeline.ts';
import { Button } from '../ui/Button.tsx';
import { TextButton } from '../ui/TextButton.tsx';
import { useRoom } from './room.ts';

const ChangeReview = lazy(() => import('./ChangeReview.tsx'));

/** What waits to be written, and what the board read back after a write. */
export function ChangeTray() {
  const changes = useApp(selectChanges);
  const write = useApp((s) => s.board.write);
  const ready = useApp((s) => s.board.link === 'ready');
  // Whether a restart is still wanted is the board's to say, not the last write's.
  const restartNeeded = useApp((s) => s.board.live?.restartNeeded ?? false);
  const restarts = useApp((s) => s.board.identity?.can.requests.includes('restart') ?? false);
  const undoes = useApp((s) => stepBack(s));
  const redoes = useApp((s) => stepOn(s));
  const [reviewing, setReviewing] = useState(false);
  const dispatch = useAppDispatch();
  const edits = useApp((s) => s.settings.edits);
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
            {(ready ? restartNeeded : write.restartNeeded) && (
              <>
                Some take effect after a restart.{' '}
                {restarts ? (
                  <TextButton onClick={() => void restartBoard()}>Restart the board</TextButton>
                ) : (
                  'Take its power away for that.'
                )}
              </>
            )}
          </span>
        )}
        {refused && (
          <TextButton tone="red" className="truncate" onClick={() => setReviewing(true)}>
            Refused, nothing was changed on the board: {write.refusals[0]?.why}
            {write.refusals.length > 1 ? ` And ${write.refusals.length - 1} more.` : ''}
          </TextButton>
        )}
        {write.kind === 'failed' && (
          <span className="truncate text-red" title={write.why}>
            {write.why}
          </span>
        )}
        {write.kind === 'idle' && changes.length === 0 && <NextStep />}
        {(write.kind === 'idle' || (write.kind === 'written' && changes.length > 0)) &&
          changes.slice(0, 3).map((c) => <ChangeText key={c.key} change={c} />)}
      </span>
      <Button
        kind="flat"
        disabled={!undoes}
        onClick={() => dispatch(undone())}
        title={undoes ? `Takes back the last change of ${undoes} (Ctrl+Z)` : 'Nothing to take back'}
      >
        Undo
      </Button>
      <Button
        kind="flat"
        disabled={!redoes}
        onClick={() => dispatch(redone())}
        title={redoes ? `Does the change of ${redoes} again (Ctrl+Shift+Z)` : 'Nothing was taken back'}
      >
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
      {reviewing && (
        <Suspense>
          <ChangeReview onClose={() => setReviewing(false)} changes={changes} />
        </Suspense>
      )}
    </section>
  );
}

/** With nothing to write, where the walk goes on. */
function NextStep() {
  const navigate = useNavigate();
  const { small } = useRoom();
  const next = useApp((s) => {
    const progress = selectProgress(s);
    return progress && nextToDo(progress);
  });
  if (!next || small) return null;
  return (
    <span className="truncate text-soft" title={`Next to do: ${next.name}`}>
      Next to do: <TextButton onClick={() => navigate(pathOf(next.id))}>{next.name}</TextButton>
    </span>
  );
}

function ChangeText({ change }: { readonly change: Change }) {
  const entry = useApp(selectCatalogue).entry(change.key);
  const units = useApp((s) => s.ui.units);
  const [was, willBe] = valueTexts(entry, change.was, change.willBe, units);
  return (
    <span className="flex items-baseline gap-1.5 whitespace-nowrap text-soft">
      {entry?.label}
      <s className="text-faint">{was}</s>
      <b className="font-medium text-ink">{willBe}</b>
    </span>
  );
}
