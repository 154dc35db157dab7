import { useState } from 'react';
import { useNavigate } from 'react-router';
import { routeScenario } from '#core/plan/routeFlown.ts';
import { formatDuration, formatQuantity } from '#core/units/units.ts';
import { flyRoute, routePrint, stopRoute } from '../../../routeFlights.ts';
import { scenarioChanged } from '../../../store/rehearsalSlice.ts';
import { selectPlan } from '../../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { Select } from '../../../ui/Select.tsx';
import { TextButton } from '../../../ui/TextButton.tsx';
import { Told } from '../../../ui/Told.tsx';

/** The route flown in the bench, with the link kept or lost at a point. */
export function CheckPart() {
  const dispatch = useAppDispatch();
  const go = useNavigate();
  const units = useApp((s) => s.ui.units);
  const plan = useApp(selectPlan);
  const site = useApp((s) => s.site.current)!;
  const { run, flown } = useApp((s) => s.routes);
  const now = useApp(routePrint);
  const usual = useApp((s) => s.rehearsal.scenario);
  const [lost, setLost] = useState<number | null>(null);
  const flying = run.kind === 'flying';
  const lostAt = lost !== null && lost <= plan.points.length ? lost : null;
  const stale = flown !== null && flown.about !== now;
  const m = (v: number) => formatQuantity(v, 'm', units, 0);
  return (
    <section aria-label="Flown in the bench" className="mt-3 border-line border-t pt-2">
      <div className="flex flex-wrap items-center gap-3">
        {flying ? (
          <Button onClick={stopRoute}>Stop</Button>
        ) : (
          <Button kind="go" disabled={plan.points.length === 0} onClick={() => void flyRoute(lostAt)}>
            Fly it in the bench
          </Button>
        )}
        <label>
          <span className="text-soft">The link </span>
          <Select
            look="small"
            aria-label="The link"
            value={lostAt ?? 0}
            onChange={(e) => setLost(Number(e.target.value) || null)}
          >
            <option value={0}>is kept</option>
            {plan.points.map((_, i) => (
              <option key={i} value={i + 1}>
                is lost at point {i + 1}
              </option>
            ))}
          </Select>
        </label>
        <TextButton
          disabled={plan.points.length === 0}
          onClick={() => {
            dispatch(scenarioChanged(routeScenario(plan, site, usual, lostAt)));
            void go('/rehearse/one-flight');
          }}
        >
          watch it instead
        </TextButton>
        <span role="status" className="text-soft">
          {flying ? 'Flying…' : ''}
        </span>
      </div>
      {run.kind === 'failed' && <Notice>{run.why}</Notice>}
      {flown && !flying && (
        <div className="mt-2">
          <p>
            <b className={`font-semibold ${flown.home ? 'text-forest' : 'text-red'}`}>
              {flown.home ? 'It came home' : 'It did not come home'}
            </b>{' '}
            after {formatDuration(flown.seconds)}
            {flown.lostAt !== null && `, the link lost at point ${flown.lostAt}`}: {flown.reached} of{' '}
            {flown.points} points, no farther than <span className="num">{m(flown.offM)}</span> from its
            lines, <span className="num">{m(Math.max(0, flown.clearanceM))}</span> above the ground at the
            least, {Math.round(100 * flown.leftShare)} % left.
            {stale && <b className="font-medium text-red"> Since then something it rests on was changed.</b>}
          </p>
          <p className="text-[14px] text-soft">
            <Told>{flown.reason}</Told>
          </p>
        </div>
      )}
    </section>
  );
}
