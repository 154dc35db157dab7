import { createPortal } from 'react-dom';
import { deviceNames } from '#core/board/deviceKinds.ts';
import { title } from '#core/board/explain.ts';
import type { BoardModel } from '#core/board/model.ts';
import type { Assignment } from '#core/board/solve.ts';
import { needsFrames, protocolOf } from '#core/board/wishes.ts';
import { useApp } from '../../store/store.ts';
import { WiringDrawing } from './WiringDrawing.tsx';

/** What to measure with the battery out, and then what to look at as it goes in for the first time. */
const checks = [
  'Battery out. Across the battery pads, + to −: no short; the resistance rises while you hold the probes.',
  'Each rail to −: no short. The servo rail and the 5 V rail are not joined unless you joined them.',
  'Each signal wire to −, to its rail and to its neighbour: no short.',
  'Each RX pad to the TX of its device, and the other way round: continuity, and crossed.',
  'Propellers off. Battery in through a current limiter or a fuse: both rails read their voltage within 0.2 V.',
  'Feel the regulators and plugs after a minute: warm is well, hot is not.',
];

/** The sheet to print: drawing, table by pad, colours, and checks with a meter. Seen on paper only. */
export function WiringSheet({
  board,
  assignment,
  linkPort,
}: {
  readonly board: BoardModel;
  readonly assignment: Assignment;
  readonly linkPort: string | undefined;
}) {
  const craft = useApp((s) => s.craft.file?.name ?? 'the craft');
  const head = 'border-b border-black py-0.5 pr-4 text-left font-semibold';
  const cell = 'border-b border-neutral-400 py-0.5 pr-4 align-top';
  return createPortal(
    <div className="print-sheet" data-theme="day">
      <h1>
        Wiring of {craft} on {title(board)}
      </h1>
      <div className="w-[150mm]">
        <WiringDrawing board={board} assignment={assignment} offered={false} linkPort={linkPort} />
      </div>
      <table className="mt-3 border-collapse">
        <thead>
          <tr>
            <th className={head}>Pad</th>
            <th className={head}>Timer</th>
            <th className={head}>Carries</th>
            <th className={head}>As</th>
            <th className={head}>Wire</th>
          </tr>
        </thead>
        <tbody>
          {board.outputs.map((p) => {
            const out = assignment.outputs.find((o) => o.output === p.output);
            const soft = assignment.serial.find((s) => s.outputs.includes(p.output));
            return (
              <tr key={p.output}>
                <td className={cell}>{p.pad}</td>
                <td className={cell}>{p.timer}</td>
                <td className={cell}>{out?.wish.name ?? (soft ? deviceNames[soft.wish.device] : 'free')}</td>
                <td className={cell}>{out ? protocolOf(out.wish) : soft ? 'serial, in software' : ''}</td>
                <td className={cell}>
                  {out
                    ? needsFrames(out.wish.kind)
                      ? 'brown, dashed'
                      : 'green'
                    : soft
                      ? 'violet, dotted'
                      : ''}
                </td>
              </tr>
            );
          })}
          {assignment.serial
            .filter((s) => s.port !== null)
            .map((s) => (
              <tr key={s.port}>
                <td className={cell}>{s.port}</td>
                <td className={cell} />
                <td className={cell}>{deviceNames[s.wish.device]}</td>
                <td className={cell}>RX to its TX, TX to its RX</td>
                <td className={cell}>blue, and blue dashed</td>
              </tr>
            ))}
          {assignment.buses.map((b) => (
            <tr key={`${b.bus}${b.wish.device}`}>
              <td className={cell}>{b.bus}</td>
              <td className={cell} />
              <td className={cell}>{deviceNames[b.wish.device]}</td>
              <td className={cell}>
                {b.wish.kind === 'can' ? 'high to high, low to low' : 'clock to clock, data to data'}
              </td>
              <td className={cell}>amber</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h2 className="mt-4 font-semibold">Before first power, with a meter</h2>
      <ol className="list-decimal pl-5">
        {checks.map((c) => (
          <li key={c}>☐ {c}</li>
        ))}
      </ol>
    </div>,
    document.body,
  );
}
