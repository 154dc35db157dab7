import { type ActuatorId, actuatorNames } from '#core/airframe/actuators.ts';
import { type LevelCommand, TRIM_FLOWN_S, trimEdits } from '#core/calibration/surfaceTrim.ts';
import { formatNumber } from '#core/units/units.ts';
import { useSampled } from '../../../live/hooks.ts';
import { live } from '../../../live/telemetry.ts';
import { selectValues } from '../../../store/selectors.ts';
import { staged } from '../../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../../store/store.ts';
import { Button } from '../../../ui/Button.tsx';
import { Notice } from '../../../ui/Notice.tsx';
import { Table } from '../../../ui/Table.tsx';
import { workshop } from '../../../workers/index.ts';
import { useRehearsed } from '../useRehearsed.ts';

const percent = (share: number) => `${formatNumber(100 * share, 1)} %`;

/** What level flight takes of a wing's surfaces, rehearsed and as its board learnt it; taken over as middles of its servos. */
export function TrimPart() {
  const { rehearse, flying, fault, seen } = useRehearsed(
    (what) => workshop().flyTrim(what),
    'So its trim was not learnt.',
  );
  const told = useSampled(() => live('trim'));
  return (
    <section aria-label="Trim" className="mt-4 border-line border-t pt-3">
      <div className="flex items-start gap-4">
        <div className="max-w-[720px] flex-1">
          <h2 className="font-semibold">Trim</h2>
          <p className="mt-1">
            In every flight the board notes what straight and level takes of the surfaces; {TRIM_FLOWN_S} s of
            it are enough. With the middles of their servos there, it flies straight in Manual too, and the
            loops have nothing to hold. The rudder is left alone: no sensor here feels whether it slips.
          </p>
        </div>
        <Button disabled={flying} onClick={rehearse}>
          {flying ? 'Flying …' : 'Rehearse the trim'}
        </Button>
      </div>
      {fault && <Notice className="mt-3">{fault}</Notice>}
      {seen && (
        <>
          <p className="mt-2" role="status">
            In the bench level flight takes {percent(seen.learnt.roll)} of roll and{' '}
            {percent(seen.learnt.pitch)} of pitch
            {seen.modelPitch !== null && ` (${percent(seen.modelPitch)} by the craft’s model)`}; flown again
            with the middles below {percent(seen.left.roll)} and {percent(seen.left.pitch)}.
          </p>
          <Middles learnt={seen.learnt} take="Take these middles over" />
        </>
      )}
      {told && told.seconds >= TRIM_FLOWN_S && (
        <>
          <p className="mt-2">
            The board learnt in its last flight, over {formatNumber(told.seconds, 0)} s of it:{' '}
            {percent(told.roll)} of roll and {percent(told.pitch)} of pitch.
          </p>
          <Middles learnt={told} take="Take over the trim that it learnt" />
        </>
      )}
    </section>
  );
}

/** New middles beside those that are drafted. */
function Middles({ learnt, take }: { readonly learnt: LevelCommand; readonly take: string }) {
  const dispatch = useAppDispatch();
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const edits = trimEdits(airframe, values, learnt);
  const moved = Object.entries(edits);
  if (moved.length === 0) return <p className="mt-1 text-soft">The middles are where they should be.</p>;
  return (
    <>
      <Table className="mt-2">
        <thead>
          <tr>
            <th>Output</th>
            <th>drives</th>
            <th>middle</th>
          </tr>
        </thead>
        <tbody>
          {moved.map(([key, us]) => {
            const output = key.split('.')[1]!;
            return (
              <tr key={key}>
                <td className="num">{output}</td>
                <td>{actuatorNames[values[`out.${output}.drives`] as ActuatorId]}</td>
                <td className="num">
                  <span className="text-soft line-through">{String(values[key])}</span>{' '}
                  <span className="font-medium">{us} µs</span>
                </td>
              </tr>
            );
          })}
        </tbody>
      </Table>
      <Button className="mt-2" onClick={() => dispatch(staged(edits))}>
        {take}
      </Button>
    </>
  );
}
