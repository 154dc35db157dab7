import { gnssLoadOf, i2cShare, MOST_SHARE } from '#core/board/budget.ts';
import { deviceNames } from '#core/board/deviceKinds.ts';
import type { BoardModel } from '#core/board/model.ts';
import { powerFaults, railLoads } from '#core/board/power.ts';
import type { Assignment } from '#core/board/solve.ts';
import type { Wishes } from '#core/board/wishes.ts';
import { settingOf } from '#core/settings/typed.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';

interface Props {
  readonly board: BoardModel;
  readonly wishes: Wishes;
  /** Where everything goes; null while that is not known, or cannot be. */
  readonly assignment: Assignment | null;
}

/** What the rails carry against what they give, and what is wrong with that. */
export function WirePower({ board, wishes, assignment }: Props) {
  const cells = useApp((s) => s.craft.airframe!.battery.cells);
  const faults = powerFaults(board, wishes, deviceNames, cells);
  return (
    <>
      <h2 className="label mt-3">Power</h2>
      {railLoads(board, wishes, deviceNames).map(({ rail, usualA, mostA }) => {
        const full = Math.max(rail.mostA, mostA);
        return (
          <div key={rail.name} className="mt-1">
            <p className="flex">
              {rail.name}
              <span className="num ml-auto text-[12.5px]">
                {mostA.toFixed(2)} of {rail.mostA} A
              </span>
            </p>
            <svg viewBox="0 0 240 8" className="w-full" aria-hidden="true">
              <rect width={240} height={8} fill="var(--sunk)" />
              <rect
                width={(240 * mostA) / full}
                height={8}
                fill={mostA > rail.mostA ? 'var(--amber-wash)' : 'var(--forest-wash)'}
              />
              <rect
                width={(240 * usualA) / full}
                height={8}
                fill={usualA > rail.mostA ? 'var(--red)' : 'var(--forest)'}
              />
              <path d={`M${(240 * rail.mostA) / full - 1} 0V8`} stroke="var(--ink)" strokeWidth={2} />
            </svg>
          </div>
        );
      })}
      {faults.map((f) => (
        <p key={f.why} className={`mt-1 text-[13px] ${f.severity === 'blocks' ? 'text-red' : 'text-amber'}`}>
          {f.why}
        </p>
      ))}
      <p className="mt-1 text-[12.5px] text-faint">
        Solid: in ordinary flight. Pale: everything at its most.
      </p>
      <WireLoads board={board} assignment={assignment} />
    </>
  );
}

/** How full the wires are that carry data. */
function WireLoads({ board, assignment }: Omit<Props, 'wishes'>) {
  const values = useApp(selectValues);
  const baud = settingOf(values, 'gnss.baud');
  const { wanted, room } = gnssLoadOf(values);
  const buses = board.buses.filter((b) => b.kind === 'i2c');
  return (
    <>
      <h2 className="label mt-3">What the wires carry</h2>
      {baud !== undefined && (
        <p className={`flex text-[13px] ${wanted > MOST_SHARE * room ? 'text-red' : ''}`}>
          GNSS at {baud}
          <span className="num ml-auto text-[12.5px]">
            {Math.round(wanted)} of {Math.round(room)} B/s
          </span>
        </p>
      )}
      {buses.map((bus) => {
        const here = assignment?.buses.filter((b) => b.bus === bus.name).map((b) => b.wish) ?? [];
        const share = i2cShare(
          here,
          bus.onBoard.map((d) => d.device),
        );
        return (
          <p key={bus.name} className={`flex text-[13px] ${share > MOST_SHARE ? 'text-red' : ''}`}>
            {bus.name}
            <span className="num ml-auto text-[12.5px]">{(100 * share).toFixed(1)} % of its time</span>
          </p>
        );
      })}
    </>
  );
}
