import { useEffect, useMemo, useState } from 'react';
import { refTo } from '#core/board/boardRef.ts';
import { boardOf, boards } from '#core/board/boards.ts';
import { craftWishes, wiringEdits } from '#core/board/craftWishes.ts';
import { type Answer, title } from '#core/board/explain.ts';
import { loose, moved } from '#core/board/placing.ts';
import type { Wishes } from '#core/board/wishes.ts';
import { solderedAs } from '#core/formats/benchTruth.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { solder } from '../../session.ts';
import { boardChosen, wiringChanged } from '../../store/craftSlice.ts';
import { selectDescription, selectLayout, selectOnCable, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { workshop } from '../../workers/index.ts';
import { Lead } from '../Lead.tsx';
import { WiringDrawing } from './WiringDrawing.tsx';
import { WiringSheet } from './WiringSheet.tsx';
import { WishList } from './WishList.tsx';

/** What is connected where: wishes beside the board as it would be wired, or why they cannot all be had. */
export default function WiringStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const kept = useApp((s) => s.craft.file?.wiring);
  const values = useApp(selectValues);
  const description = useApp(selectDescription);
  const target = useApp((s) => s.craft.file!.board.target);
  const onCable = useApp(selectOnCable);
  // What is laid out for one make is not put on another that happens to be plugged in.
  const otherMake = useApp((s) => s.board.link === 'ready') && !onCable;
  const version = useApp((s) => s.settings.version);
  const dispatch = useAppDispatch();
  const asWired = useMemo(() => craftWishes(airframe, values, description), [airframe, values, description]);
  const wishes = kept?.wishes ?? asWired;
  const layout = useApp(selectLayout);
  const board = layout ?? boards[0]!;
  const [answer, setAnswer] = useState<{ to: Wishes; at: string; answer: Answer } | null>(null);
  useEffect(() => {
    if (!layout) return;
    let current = true;
    void workshop()
      .arrange(layout, wishes)
      .then((a) => current && setAnswer({ to: wishes, at: target, answer: a }));
    return () => {
      current = false;
    };
  }, [layout, target, wishes]);
  const selfTest = useApp((s) => s.board.selfTest);
  const heard = useMemo(() => new Map((selfTest?.items ?? []).map((i) => [i.on, i.state])), [selfTest]);
  const change = (next: Wishes) => dispatch(wiringChanged({ wishes: next }));
  const choose = (next: string) => {
    const model = boardOf(next)!;
    if (next === target) return;
    dispatch(wiringChanged({ wishes: loose(wishes, model) }));
    dispatch(boardChosen(refTo(model, 'Pfad', version)));
  };
  const known = answer?.at === target ? answer.answer : null;
  const current = answer?.to === wishes;
  return (
    <div className="flex min-h-full flex-col">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
        </div>
        <label className="text-soft">
          Board
          <Select className="mt-1 block" value={target} onChange={(e) => choose(e.target.value)}>
            {!boardOf(target) && (
              <option value={target}>{layout ? title(layout) : `${target}, not known here`}</option>
            )}
            {boards.map((b) => (
              <option key={b.target} value={b.target}>
                {b.name}, revision {b.revision}
              </option>
            ))}
          </Select>
        </label>
      </div>
      {known && !known.ok && (
        <Notice tone="grave">
          <p>{known.collision.sentence}</p>
          {known.collision.offer && (
            <p className="mt-1.5 flex items-center gap-4">
              <span className="flex-1 text-soft">It would go like this: {known.collision.offer.change}</span>
              <Button kind="go" disabled={!current} onClick={() => change(known.collision.offer!.wishes)}>
                Take this offer
              </Button>
            </p>
          )}
        </Notice>
      )}
      {known?.ok && (
        <p role="status" className="mt-2 flex items-center gap-4">
          <span className="flex-1 text-forest">
            Everything has its place
            {known.assignment.moved === 0
              ? '; nothing that is soldered has to move.'
              : `; ${known.assignment.moved === 1 ? 'one wire has' : `${known.assignment.moved} wires have`} to be moved.`}
          </span>
          {otherMake ? (
            <span className="text-soft">On the cable is another make: nothing of this goes to it.</span>
          ) : (
            <>
              <Soldering answer={known} disabled={!current} />
              <IntoTray answer={known} disabled={!current} />
            </>
          )}
        </p>
      )}
      {!layout && (
        <Notice tone="plain">
          How a board “{target}” is laid out is not known here, so nothing can be wired to it. The wishes are
          kept; choose a board above, or plug it in to see what it says of itself.
        </Notice>
      )}
      <div
        hidden={!layout}
        className="mt-2 grid min-h-0 flex-1 gap-5 2xl:grid-cols-[minmax(0,1fr)_264px] [&[hidden]]:hidden"
      >
        <div>
          {known?.ok && (
            <TextButton tone="soft" onClick={() => window.print()}>
              Print the wiring sheet
            </TextButton>
          )}
          <div className="overflow-x-auto">
            <div className="min-w-[780px]">
              <WiringDrawing
                board={board}
                assignment={known?.ok ? known.assignment : (known?.collision.offer?.assignment ?? null)}
                offered={known !== null && !known.ok}
                linkPort={wishes.linkPort}
                {...(onCable ? { heard } : {})}
                onMove={known?.ok ? (from, to) => change(moved(wishes, known.assignment, from, to)) : null}
              />
            </div>
          </div>
        </div>
        <WishList
          board={board}
          wishes={wishes}
          assignment={known?.ok ? known.assignment : null}
          colliding={known && !known.ok ? known.collision.wishes.map((w) => JSON.stringify(w.wish)) : []}
          onChange={change}
          onReset={kept ? () => dispatch(wiringChanged({ wishes: asWired })) : null}
        />
      </div>
      {known?.ok && <WiringSheet board={board} assignment={known.assignment} linkPort={wishes.linkPort} />}
    </div>
  );
}

/** Hands at the bench solder the craft there as it is laid out. */
function Soldering({
  answer,
  disabled,
}: {
  readonly answer: Extract<Answer, { ok: true }>;
  readonly disabled: boolean;
}) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const truth = useApp((s) => s.craft.file?.bench);
  if (!truth) return null;
  const next = solderedAs(airframe, truth, answer.assignment);
  if (JSON.stringify(next) === JSON.stringify(truth)) return null;
  return (
    <button
      type="button"
      disabled={disabled}
      title="The cable and the battery come out for it"
      className="whitespace-nowrap rounded-[4px] border border-wood-dark bg-wood px-3 py-1.5 text-on-wood disabled:opacity-45"
      onClick={() => void solder(next)}
    >
      Solder the craft on the bench like this
    </button>
  );
}

/** What was laid out as edits. */
function IntoTray({
  answer,
  disabled,
}: {
  readonly answer: Extract<Answer, { ok: true }>;
  readonly disabled: boolean;
}) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const description = useApp(selectDescription)!;
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const edits = wiringEdits(airframe, answer.assignment, description);
  const waiting = useApp((s) => s.settings.edits);
  const onBoard = useApp(selectOnCable) && !Object.keys(edits).some((k) => k in waiting);
  const stillWaiting = Object.keys(edits).filter((k) => k in waiting).length;
  const other = Object.entries(edits).filter(([k, v]) => !sameValue(values[k], v));
  if (other.length === 0)
    return (
      <span className="text-soft">
        {onBoard
          ? 'The board is set like this.'
          : stillWaiting > 0
            ? `${stillWaiting} settings for it wait in the tray to be written.`
            : 'The settings say the same.'}
      </span>
    );
  return (
    <Button disabled={disabled} onClick={() => dispatch(staged(Object.fromEntries(other)))}>
      Put {other.length} settings into the tray
    </Button>
  );
}
