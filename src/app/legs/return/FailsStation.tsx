import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { type FailCell, pairOf } from '#core/fails/failCell.ts';
import { endOf, type FailEnd, failScenario, faultName, phaseNames } from '#core/fails/failTable.ts';
import { type FaultId, type PhaseId, phaseIds } from '#core/fails/ids.ts';
import { isFresh, pairsOf } from '#core/fails/prints.ts';
import { verdictWords } from '#core/formats/rehearsalResult.ts';
import { GROUND_UNKNOWN } from '#core/site/site.ts';
import { formatClock, formatQuantity } from '#core/units/units.ts';
import { failWorldOf, flyFails, stopFails } from '../../failFlights.ts';
import { rehearse } from '../../session.ts';
import { scenarioChanged } from '../../store/rehearsalSlice.ts';
import { selectLayout, selectPlan, selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { Told } from '../../ui/Told.tsx';
import { Lead } from '../Lead.tsx';

const endWords: Readonly<Record<FailEnd, string>> = { home: 'home', down: 'down', lost: 'lost' };
const endLooks: Readonly<Record<FailEnd, string>> = {
  home: 'text-forest',
  down: 'text-amber',
  lost: 'text-red',
};

/** What may go wrong against the phase of flight; every cell is a flight. */
export default function FailsStation() {
  const dispatch = useAppDispatch();
  const go = useNavigate();
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const site = useApp((s) => s.site.current)!;
  const values = useApp(selectValues);
  const board = useApp(selectLayout);
  const target = useApp((s) => s.craft.file!.board.target);
  const built = useApp((s) => s.craft.file!.bench);
  const scenario = useApp((s) => s.rehearsal.scenario);
  const { cells, run } = useApp((s) => s.fails);
  const plan = useApp(selectPlan);
  const [picked, setPicked] = useState<{ fault: FaultId; phase: PhaseId } | null>(null);
  const world = useMemo(
    () => failWorldOf({ airframe, site, target, board, values, truth: built ?? null, scenario, plan }),
    [airframe, site, target, board, values, built, scenario, plan],
  );
  const rows = useMemo(() => {
    const pairs = pairsOf(world);
    const known = new Map(
      pairs.map((p) => {
        const cell = cells[pairOf(p)];
        return [pairOf(p), cell ? { cell, fresh: isFresh(cell, world, target) } : null] as const;
      }),
    );
    return { faults: [...new Set(pairs.map((p) => p.fault))], known };
  }, [world, target, cells]);
  const waiting = [...rows.known.values()].filter((k) => !k?.fresh).length;
  const flying = run.kind === 'flying';
  const here = picked && rows.known.get(pairOf(picked));
  const { wind, outbound } = scenario;
  const counts = [...rows.known.values()].flatMap((k) => (k?.fresh ? [endOf(k.cell.verdict)] : []));
  const count = (end: FailEnd) => counts.filter((c) => c === end).length;
  return (
    <>
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead />
          {!site.terrain.known && <p className="mt-1 text-amber">{GROUND_UNKNOWN}</p>}
        </div>
        {flying ? (
          <Button onClick={stopFails}>Stop</Button>
        ) : (
          <Button
            kind={waiting > 0 ? 'go' : 'plain'}
            disabled={waiting === 0}
            onClick={() => void flyFails()}
          >
            {waiting === rows.known.size
              ? `Fly all ${waiting}`
              : waiting > 0
                ? `Fly the ${waiting} that changed`
                : 'All are flown'}
          </Button>
        )}
      </div>
      <p className="mt-2 text-soft" role="status">
        {flying
          ? `${run.done} of ${run.total} flown.`
          : counts.length > 0
            ? `${count('home')} come home, ${count('down')} come down where they are, ${count('lost')} are lost.`
            : `With the wind of the rehearsal, ${formatQuantity(wind.speedMps, 'm/s', units)} from ${wind.fromDeg}°, on bearing ${outbound.bearingDeg}°. The link is lost as well, so that the board has to do it.`}
      </p>
      {run.kind === 'failed' && <Notice className="mt-2">{run.why}</Notice>}
      <div className="mt-3 overflow-x-auto">
        <table className="w-full min-w-[640px] border-collapse">
          <caption className="sr-only">What may go wrong, by the phase of flight</caption>
          <thead>
            <tr className="border-line border-b text-left align-bottom text-soft">
              <th scope="col" className="py-1 pr-3 font-normal">
                what fails
              </th>
              {phaseIds.map((p) => (
                <th key={p} scope="col" className="w-[14%] px-1 py-1 font-normal">
                  {phaseNames[p]}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows.faults.map((fault) => (
              <tr key={fault} className="border-line border-b">
                <th scope="row" className="py-0.5 pr-3 text-left font-normal">
                  {faultName(fault, airframe)}
                </th>
                {phaseIds.map((phase) => {
                  const k = rows.known.get(pairOf({ fault, phase })) ?? null;
                  return (
                    <td key={phase} className="px-0.5 py-0.5">
                      <Cell
                        name={`${faultName(fault, airframe)}, ${phaseNames[phase]}`}
                        known={k}
                        picked={picked?.fault === fault && picked.phase === phase}
                        onPick={() => setPicked({ fault, phase })}
                      />
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {picked && here && (
        <section
          aria-label="This flight"
          ref={(e) => e?.scrollIntoView({ block: 'nearest' })}
          key={pairOf(picked)}
          className="mt-4 border-line border-t pt-3"
        >
          <div className="flex items-start gap-4">
            <p className="flex-1">
              <b className="font-semibold">
                {faultName(picked.fault, airframe)}, {phaseNames[picked.phase]}:
              </b>{' '}
              <span className={endLooks[endOf(here.cell.verdict)]}>
                {verdictWords[here.cell.verdict].toLowerCase()}
              </span>
              . <Told>{here.cell.reason}</Told>
              {!here.fresh && <span className="text-red"> It was flown with an earlier draft.</span>}
            </p>
            <Button
              onClick={() => {
                dispatch(scenarioChanged(failScenario(world, picked.fault, picked.phase)));
                void rehearse();
                void go('/rehearse/one-flight');
              }}
            >
              Watch it
            </Button>
          </div>
          {here.fresh && here.cell.saved && (
            <p className="mt-1">
              The same flight came home with another setting:{' '}
              <Button kind="plain" onClick={() => dispatch(staged(here.cell.saved!.edits))}>
                {here.cell.saved.label}
              </Button>
            </p>
          )}
          {here.cell.decisions.length > 0 && (
            <ol className="mt-2 max-w-[720px] text-[14px]">
              {here.cell.decisions.map((d) => (
                <li key={`${d.atS} ${d.text}`} className="grid grid-cols-[52px_1fr]">
                  <span className="num text-soft">{formatClock(Math.max(0, d.atS))}</span>
                  <Told>{d.text}</Told>
                </li>
              ))}
            </ol>
          )}
        </section>
      )}
    </>
  );
}

/** How a pair ended: by shape, word and colour; hollow where it was flown with an earlier draft. */
function Cell({
  name,
  known,
  picked,
  onPick,
}: {
  readonly name: string;
  readonly known: { readonly cell: FailCell; readonly fresh: boolean } | null;
  readonly picked: boolean;
  readonly onPick: () => void;
}) {
  if (!known) return <span className="block px-1.5 text-faint">not flown</span>;
  const end = endOf(known.cell.verdict);
  const fill = known.fresh ? 'currentColor' : 'none';
  return (
    <button
      type="button"
      aria-label={`${name}: ${endWords[end]}${known.fresh ? '' : ', before the last change'}`}
      aria-pressed={picked}
      onClick={onPick}
      className={`flex w-full items-center gap-1.5 rounded-[4px] border px-1.5 py-0.5 text-left hover:bg-sunk ${picked ? 'border-ink' : 'border-transparent'} ${endLooks[end]} ${known.fresh ? '' : 'opacity-70'}`}
    >
      <svg viewBox="0 0 14 14" className="h-3.5 w-3.5" aria-hidden="true">
        {end === 'home' && (
          <path d="M7 1L13 7 7 13 1 7Z" fill={fill} stroke="currentColor" strokeWidth={1.6} />
        )}
        {end === 'down' && <path d="M2 4H12L7 12Z" fill={fill} stroke="currentColor" strokeWidth={1.6} />}
        {end === 'lost' && (
          <path
            d="M2 2L12 12M12 2L2 12"
            fill="none"
            stroke="currentColor"
            strokeWidth={known.fresh ? 2.4 : 1.2}
          />
        )}
      </svg>
      {endWords[end]}
      {known.fresh && known.cell.saved && <span className="ml-auto text-[12px] text-soft">mend</span>}
    </button>
  );
}
