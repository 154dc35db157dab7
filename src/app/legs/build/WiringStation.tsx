import { useEffect, useMemo, useState } from 'react';
import { boardOf, boards } from '#core/board/boards.ts';
import { craftWishes, outputEdits } from '#core/board/craftWishes.ts';
import type { Answer } from '#core/board/explain.ts';
import type { BoardModel } from '#core/board/model.ts';
import { powerFaults, railLoads } from '#core/board/power.ts';
import {
  type BusDevice,
  busDevices,
  deviceNames,
  type OutputKind,
  type OutputWish,
  protocolOf,
  type SerialDevice,
  serialDevices,
  type Wishes,
} from '#core/board/wishes.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { wiringChanged } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../../ui/Lead.tsx';
import { workshop } from '../../workers/index.ts';
import { WiringDrawing } from './WiringDrawing.tsx';
import { WiringSheet } from './WiringSheet.tsx';

/** What is connected where: wishes beside the board as it would be wired, or why they cannot all be had. */
export default function WiringStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const kept = useApp((s) => s.craft.file?.wiring);
  const values = useApp(selectValues);
  const description = useApp((s) => s.settings.description);
  const dispatch = useAppDispatch();
  const asWired = useMemo(() => craftWishes(airframe, values, description), [airframe, values, description]);
  const usual = boards.find((b) => b.name === description?.board)?.target ?? boards[0]!.target;
  const target = kept?.target ?? usual;
  const wishes = kept?.wishes ?? asWired;
  const board = boardOf(target) ?? boards[0]!;
  const [answer, setAnswer] = useState<{ to: Wishes; at: string; answer: Answer } | null>(null);
  useEffect(() => {
    let current = true;
    void workshop()
      .arrange(target, wishes)
      .then((a) => current && a && setAnswer({ to: wishes, at: target, answer: a }));
    return () => {
      current = false;
    };
  }, [target, wishes]);
  const change = (next: Wishes) => dispatch(wiringChanged({ target, wishes: next }));
  const choose = (next: string) => {
    const same = boards.find((b) => b.target === next)?.name === description?.board;
    dispatch(wiringChanged({ target: next, wishes: same ? wishes : loose(wishes) }));
  };
  const known = answer?.at === target ? answer.answer : null;
  const current = answer?.to === wishes;
  const onCable = description?.board === board.name;
  return (
    <div className="flex h-full min-h-[520px] flex-col">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead title="Wiring">
            Say what is to be connected. It is laid out under the board’s own rules, moving as little as can
            be of what is soldered already.
          </Lead>
        </div>
        <label className="text-soft">
          Board
          <select
            className="mt-1 block rounded-[4px] border border-line bg-sheet px-2 py-1.5 font-medium text-ink"
            value={target}
            onChange={(e) => choose(e.target.value)}
          >
            {boards.map((b) => (
              <option key={b.target} value={b.target}>
                {b.name}, revision {b.revision}
              </option>
            ))}
          </select>
        </label>
      </div>
      {known && !known.ok && (
        <div
          role="alert"
          className="mt-2 rounded-[4px] border border-line border-l-4 border-l-red bg-paper px-3.5 py-2"
        >
          <p>{known.collision.sentence}</p>
          {known.collision.offer && (
            <p className="mt-1.5 flex items-center gap-4">
              <span className="flex-1 text-soft">It would go like this: {known.collision.offer.change}</span>
              <Button kind="go" disabled={!current} onClick={() => change(known.collision.offer!.wishes)}>
                Take this offer
              </Button>
            </p>
          )}
        </div>
      )}
      {known?.ok && (
        <p role="status" className="mt-2 flex items-center gap-4">
          <span className="flex-1 text-forest">
            Everything has its place
            {known.assignment.moved === 0
              ? '; nothing that is soldered has to move.'
              : `; ${known.assignment.moved === 1 ? 'one wire has' : `${known.assignment.moved} wires have`} to be moved.`}
          </span>
          {onCable && <IntoTray answer={known} disabled={!current} />}
        </p>
      )}
      <div className="mt-2 grid min-h-0 flex-1 gap-5 xl:grid-cols-[minmax(0,1fr)_256px]">
        <div>
          {known?.ok && (
            <button
              type="button"
              className="text-soft underline decoration-dotted"
              onClick={() => window.print()}
            >
              Print the wiring sheet
            </button>
          )}
          <WiringDrawing
            board={board}
            assignment={known?.ok ? known.assignment : (known?.collision.offer?.assignment ?? null)}
            offered={known !== null && !known.ok}
            linkPort={wishes.linkPort}
          />
        </div>
        <WishList
          board={board}
          wishes={wishes}
          colliding={known && !known.ok ? known.collision.wishes.map((w) => JSON.stringify(w.wish)) : []}
          onChange={change}
          onReset={kept ? () => dispatch(wiringChanged({ target: usual, wishes: asWired })) : null}
        />
      </div>
      {known?.ok && <WiringSheet board={board} assignment={known.assignment} linkPort={wishes.linkPort} />}
    </div>
  );
}

/** The same wishes for a board to which nothing is soldered yet. */
function loose(w: Wishes): Wishes {
  return {
    outputs: w.outputs.map(({ output: _, ...o }) => o),
    serial: w.serial.map(({ port: _, ...s }) => s),
    buses: w.buses.map(({ bus: _, ...b }) => b),
  };
}

/** The laid-out outputs as edits, for the board on the cable. */
function IntoTray({
  answer,
  disabled,
}: {
  readonly answer: Extract<Answer, { ok: true }>;
  readonly disabled: boolean;
}) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const description = useApp((s) => s.settings.description)!;
  const values = useApp(selectValues);
  const dispatch = useAppDispatch();
  const edits = outputEdits(airframe, answer.assignment, description);
  const other = Object.entries(edits).filter(([k, v]) => !sameValue(values[k], v));
  if (other.length === 0) return <span className="text-soft">The outputs are set like this.</span>;
  return (
    <Button disabled={disabled} onClick={() => dispatch(staged(Object.fromEntries(other)))}>
      Put {other.length} output settings into the tray
    </Button>
  );
}

/** What the rails carry against what they give, and what is wrong with that. */
function Power({ board, wishes }: { readonly board: BoardModel; readonly wishes: Wishes }) {
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
    </>
  );
}

const outputNames: Readonly<Record<OutputKind, string>> = {
  'servo-pwm': 'servo',
  'motor-pwm': 'motor, pulses',
  dshot300: 'motor, DShot 300',
  dshot600: 'motor, DShot 600',
  led: 'LED strip',
};

/** Wishes by kind, each to change or take away, and one list to add from. */
function WishList({
  board,
  wishes,
  colliding,
  onChange,
  onReset,
}: {
  readonly board: BoardModel;
  readonly wishes: Wishes;
  readonly colliding: readonly string[];
  readonly onChange: (next: Wishes) => void;
  readonly onReset: (() => void) | null;
}) {
  const add = (value: string) => {
    const [of, what, kind] = value.split('/') as [string, string, 'i2c' | 'can' | undefined];
    if (of === 'output') {
      const name = `${outputNames[what as OutputKind].split(/[ ,]/)[0]} ${wishes.outputs.length + 1}`;
      onChange({ ...wishes, outputs: [...wishes.outputs, { name, kind: what as OutputKind }] });
    } else if (of === 'serial')
      onChange({ ...wishes, serial: [...wishes.serial, { device: what as SerialDevice }] });
    else onChange({ ...wishes, buses: [...wishes.buses, { device: what as BusDevice, kind: kind! }] });
  };
  const mark = (wish: object) =>
    colliding.includes(JSON.stringify(wish)) ? 'border-l-2 border-l-red pl-2' : '';
  const row = 'flex items-baseline gap-2 border-line border-b py-1';
  const away = (text: string, onClick: () => void) => (
    <button
      type="button"
      aria-label={`Take away: ${text}`}
      className="ml-auto text-faint underline decoration-dotted"
      onClick={onClick}
    >
      away
    </button>
  );
  const without = <T,>(list: readonly T[], item: T) => list.filter((x) => x !== item);
  const kindChanged = (o: OutputWish, kind: OutputKind): OutputWish => {
    const { rateHz: _, ...rest } = o;
    return { ...rest, kind };
  };
  return (
    <section aria-label="What is to be connected" className="min-h-0 overflow-y-auto" tabIndex={0}>
      <select
        aria-label="Connect something"
        value=""
        className="w-full rounded-[4px] border border-line bg-sheet px-2 py-1"
        onChange={(e) => add(e.target.value)}
      >
        <option value="" disabled>
          connect something…
        </option>
        <optgroup label="on outputs">
          {Object.entries(outputNames).map(([kind, name]) => (
            <option key={kind} value={`output/${kind}`}>
              {name}
            </option>
          ))}
        </optgroup>
        <optgroup label="on serial ports">
          {Object.keys(serialDevices).map((d) => (
            <option key={d} value={`serial/${d}`}>
              {deviceNames[d as SerialDevice]}
            </option>
          ))}
        </optgroup>
        {(['i2c', 'can'] as const).map((kind) => (
          <optgroup key={kind} label={`on ${kind.toUpperCase()}`}>
            {Object.keys(busDevices).map((d) => (
              <option key={d} value={`bus/${d}/${kind}`}>
                {deviceNames[d as BusDevice]} on {kind.toUpperCase()}
              </option>
            ))}
          </optgroup>
        ))}
      </select>
      <h2 className="label mt-3">Outputs</h2>
      <ul>
        {wishes.outputs.map((o, i) => (
          <li key={`${o.name}${i}`} className={`${row} ${mark(o)}`}>
            <span className="min-w-0 flex-1 truncate">{o.name}</span>
            <select
              aria-label={`How ${o.name} is driven`}
              title={protocolOf(o)}
              className="w-[108px] rounded-[3px] border border-line bg-sheet text-[12.5px]"
              value={o.kind}
              onChange={(e) =>
                onChange({
                  ...wishes,
                  outputs: wishes.outputs.map((x) =>
                    x === o ? kindChanged(o, e.target.value as OutputKind) : x,
                  ),
                })
              }
            >
              {Object.entries(outputNames).map(([kind, name]) => (
                <option key={kind} value={kind}>
                  {name}
                </option>
              ))}
            </select>
            {away(o.name, () => onChange({ ...wishes, outputs: without(wishes.outputs, o) }))}
          </li>
        ))}
      </ul>
      <h2 className="label mt-3">Serial</h2>
      <ul>
        {wishes.serial.map((s, i) => (
          <li key={`${s.device}${i}`} className={`${row} ${mark(s)}`}>
            <span>{deviceNames[s.device]}</span>
            <span className="num text-[12.5px] text-faint">{s.baud ?? ''}</span>
            {away(deviceNames[s.device], () => onChange({ ...wishes, serial: without(wishes.serial, s) }))}
          </li>
        ))}
      </ul>
      <h2 className="label mt-3">Buses</h2>
      <ul>
        {wishes.buses.map((b, i) => (
          <li key={`${b.device}${i}`} className={`${row} ${mark(b)}`}>
            <span>{deviceNames[b.device]}</span>
            <span className="text-[12.5px] text-faint">{b.kind.toUpperCase()}</span>
            {away(deviceNames[b.device], () => onChange({ ...wishes, buses: without(wishes.buses, b) }))}
          </li>
        ))}
      </ul>
      <Power board={board} wishes={wishes} />
      {onReset && (
        <button type="button" className="mt-3 text-soft underline decoration-dotted" onClick={onReset}>
          Back to what the settings say
        </button>
      )}
    </section>
  );
}
