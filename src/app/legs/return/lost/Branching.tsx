import { isRotorcraft } from '#core/airframe/airframe.ts';
import { branchesOf } from '#core/lostlink/branches.ts';
import { selectValues } from '../../../store/selectors.ts';
import { useApp } from '../../../store/store.ts';

/** What the board asks itself when the link stays lost, from top to bottom; to the right what follows a no. */
export function Branching() {
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const rotors = useApp((s) => isRotorcraft(s.craft.airframe!));
  const { asks, last } = branchesOf(values, rotors, units);
  return (
    <section
      aria-label="What it does, by where it is"
      className="mt-5 max-w-[760px] border-line border-t pt-3"
    >
      <h2 className="font-semibold">What it does, by where it is</h2>
      <ol className="mt-2">
        {asks.map((b) => (
          <li key={b.id} className="grid grid-cols-[20px_250px_1fr] gap-x-2">
            <span aria-hidden="true" className="relative">
              <span className="absolute top-[6px] left-[5px] h-[9px] w-[9px] rotate-45 border-2 border-forest bg-sheet" />
              <span className="absolute top-[20px] bottom-[-4px] left-[9px] border-forest border-l-2" />
            </span>
            <span className="pb-2 font-medium">{b.asks}</span>
            <span className="pb-2">
              <span className="text-soft">no → </span>
              {b.otherwise}
            </span>
          </li>
        ))}
        <li className="grid grid-cols-[20px_1fr] gap-x-2">
          <span aria-hidden="true" className="relative">
            <span className="absolute top-[6px] left-[5px] h-[9px] w-[9px] rotate-45 bg-forest" />
          </span>
          <span>
            <span className="text-soft">{asks.length > 1 ? 'every time yes → ' : 'yes → '}</span>
            {last}
          </span>
        </li>
      </ol>
    </section>
  );
}
