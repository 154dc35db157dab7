import { planPrint } from '#core/plan/packPlan.ts';
import { isEmptyPlan } from '#core/plan/plan.ts';
import { writePlanToBoard } from '../../../session.ts';
import { planChanged } from '../../../store/craftSlice.ts';
import { selectPlan } from '../../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';

/** Whether the board has what is drawn, and the way there. */
export function BoardPart() {
  const dispatch = useAppDispatch();
  const plan = useApp(selectPlan);
  const { link, plan: held, planWrite, identity } = useApp((s) => s.board);
  const ready = link === 'ready';
  const keeps = identity?.can.requests.includes('plan-begin') ?? false;
  const same = held !== null && planPrint(held) === planPrint(plan);
  const count = (p: typeof plan) =>
    isEmptyPlan(p)
      ? 'nothing'
      : [
          p.points.length > 0 && `${p.points.length} ${p.points.length === 1 ? 'point' : 'points'}`,
          p.fences.length > 0 && `${p.fences.length} ${p.fences.length === 1 ? 'fence' : 'fences'}`,
        ]
          .filter(Boolean)
          .join(' and ');
  return (
    <section aria-label="On the board" className="mt-3 border-line border-t pt-2">
      <div className="flex flex-wrap items-center gap-3">
        <p role="status" className="flex-1">
          <b className="font-semibold">On the board: </b>
          {!ready
            ? 'no board is plugged in. What is drawn is kept here meanwhile.'
            : !keeps
              ? 'its firmware keeps no routes and fences.'
              : planWrite.kind === 'writing'
                ? 'writing, then reading it back…'
                : held === null
                  ? 'what it holds is not known.'
                  : same
                    ? planWrite.kind === 'written'
                      ? `it read back ${count(plan)} as sent.`
                      : `${count(held)}, as drawn here.`
                    : `${count(held)}, other than drawn here.`}
        </p>
        {ready && keeps && !same && held !== null && (
          <>
            {!isEmptyPlan(held) && (
              <Button onClick={() => dispatch(planChanged(held))}>Take what the board has</Button>
            )}
            <Button
              kind="go"
              disabled={planWrite.kind === 'writing'}
              onClick={() => void writePlanToBoard(plan)}
            >
              {isEmptyPlan(plan) ? 'Clear it on the board' : 'Write it to the board'}
            </Button>
          </>
        )}
      </div>
      {planWrite.kind === 'failed' && <Notice>{planWrite.why}</Notice>}
    </section>
  );
}
