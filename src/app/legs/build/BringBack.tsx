import { bringingBack } from '../../flashing/index.ts';
import { when } from '../../history/words.ts';
import { useApp } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { CarryItems } from './CarryReport.tsx';

/** Settings that wait to go back, each with what becomes of it. */
export function BringBack() {
  const { report, back, returning } = useApp((s) => s.firmware);
  const { identity, link } = useApp((s) => s.board);
  const snapshot = useApp((s) => s.history.snapshots.find((x) => x.id === s.firmware.returning?.snapshot));
  if (back.kind === 'done')
    return (
      <p role="status" className="mt-5 font-semibold text-forest">
        {back.count === 0
          ? 'The board holds its settings as before; there is nothing to bring back.'
          : `${back.count} settings are back on the board, each read back as it was sent.`}
      </p>
    );
  if (!returning || link !== 'ready' || identity?.serial !== returning.serial) return null;
  const open = report?.items.filter((i) => i.kind === 'decide').length ?? 0;
  return (
    <section aria-label="Settings back" className="mt-5 max-w-[760px]">
      <h2 className="font-semibold text-[15px]">
        Settings of Pfad {snapshot?.version}, kept {snapshot && when(snapshot.lastAt)}
      </h2>
      {back.kind === 'failed' && <Notice className="mt-1">{back.why}</Notice>}
      {report && (
        <>
          <p className="text-soft">
            This is what becomes of each under {report.to}. Nothing is written until you take it.
            {open > 0 && ` ${open} ask for your decision; the first choice stands until you take another.`}
          </p>
          <div
            className="mt-2 max-h-[340px] overflow-y-auto rounded-[4px] border border-line px-3 py-2"
            tabIndex={0}
            role="region"
            aria-label="What becomes of each setting"
          >
            <CarryItems
              report={report}
              onChoose={(id, option) => {
                const chosen = Object.fromEntries(
                  report.items.flatMap((i) => (i.decision ? [[i.decision.id, i.decision.chosen]] : [])),
                );
                void bringingBack.prepare({ ...chosen, [id]: option });
              }}
            />
          </div>
          <div className="mt-2 flex gap-3">
            <Button kind="go" disabled={back.kind === 'writing'} onClick={() => void bringingBack.bring()}>
              {back.kind === 'writing' ? 'Writing…' : 'Write them to the board'}
            </Button>
            <Button kind="flat" disabled={back.kind === 'writing'} onClick={() => void bringingBack.leave()}>
              Leave the board on its defaults
            </Button>
          </div>
        </>
      )}
    </section>
  );
}
