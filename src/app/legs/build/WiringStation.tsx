import { useEffect, useMemo, useState } from 'react';
import { boardOf, boards } from '#core/board/boards.ts';
import { gnssLoadOf, i2cShare, MOST_SHARE } from '#core/board/budget.ts';
import { craftWishes, wiringEdits } from '#core/board/craftWishes.ts';
import { describeBoard } from '#core/board/describe.ts';
import type { Answer } from '#core/board/explain.ts';
import type { BoardModel } from '#core/board/model.ts';
import { powerFaults, railLoads } from '#core/board/power.ts';
import type { Assignment } from '#core/board/solve.ts';
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
import { solderedAs } from '#core/formats/benchTruth.ts';
import { sameValue } from '#core/settings/catalogue.ts';
import { solder } from '../../session.ts';
import { wiringChanged } from '../../store/craftSlice.ts';
import { selectValues } from '../../store/selectors.ts';
import { staged } from '../../store/settingsSlice.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Lead } from '../../ui/Lead.tsx';
import { workshop } from '../../workers/index.ts';
import { type WireEnd, WiringDrawing } from './WiringDrawing.tsx';
import { WiringSheet } from './WiringSheet.tsx';

/** What is connected where: wishes beside the board as it would be wired, or why they cannot all be had. */
export default function WiringStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const kept = useApp((s) => s.craft.file?.wiring);
  const values = useApp(selectValues);
  const description = useApp((s) => s.settings.description);
  const dispatch = useAppDispatch();
  const asWired = useMemo(() => craftWishes(airframe, values, description), [airframe, values, description]);
  const usual = description?.target ?? boards[0]!.target;
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
  const selfTest = useApp((s) => s.board.selfTest);
  const heard = useMemo(() => new Map((selfTest?.items ?? []).map((i) => [i.on, i.state])), [selfTest]);
  const change = (next: Wishes) => dispatch(wiringChanged({ target, wishes: next }));
  const choose = (next: string) => {
    const same = next === description?.target;
    dispatch(wiringChanged({ target: next, wishes: same ? wishes : loose(wishes, boardOf(next)!) }));
  };
  const known = answer?.at === target ? answer.answer : null;
  const current = answer?.to === wishes;
  const onCable = description?.target === target;
  return (
    <div className="flex h-full min-h-[520px] flex-col">
      <div className="flex items-start gap-4">
        <div className="flex-1">
          <Lead title="Wiring">
            Say what is to be connected. It is laid out under the board’s own rules, moving as little as can
            be of what is soldered already. Draw a wire to another pad to have it there.
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
          {onCable && <Soldering answer={known} disabled={!current} />}
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
            {...(onCable ? { heard } : {})}
            onMove={known?.ok ? (from, to) => change(moved(wishes, known.assignment, from, to)) : null}
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

/** The wishes after a wire was drawn elsewhere; what was there before is free to go anywhere. */
function moved(wishes: Wishes, assignment: Assignment, from: WireEnd, to: WireEnd): Wishes {
  if ('output' in from && 'output' in to) {
    const on = assignment.outputs.find((a) => a.output === from.output)?.wish;
    const wish = on && wishes.outputs.find((o) => sameWish(o, on));
    return wish ? { ...wishes, outputs: placed(wishes.outputs, wish, to.output) } : wishes;
  }
  if ('port' in from && 'port' in to) {
    const on = assignment.serial.find((a) => a.port === from.port)?.wish;
    const wish = on && wishes.serial.find((s) => sameWish(s, on));
    return wish ? { ...wishes, serial: ported(wishes.serial, wish, to.port) } : wishes;
  }
  return wishes;
}

const sameWish = (a: object, b: object) => JSON.stringify(a) === JSON.stringify(b);

/** Hands at the bench solder the craft there as it is laid out. */
function Soldering({
  answer,
  disabled,
}: {
  readonly answer: Extract<Answer, { ok: true }>;
  readonly disabled: boolean;
}) {
  const truth = useApp((s) => s.craft.file?.bench);
  if (!truth) return null;
  const next = solderedAs(truth, answer.assignment);
  if (sameWish(next, truth)) return null;
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

/** The same wishes for a board to which nothing is soldered yet but the link to here. */
function loose(w: Wishes, board: BoardModel): Wishes {
  const link = describeBoard(board).ports.find((p) => p.link);
  return {
    outputs: w.outputs.map(({ output: _, ...o }) => o),
    serial: w.serial.map(({ port: _, ...s }) => s),
    buses: w.buses.map(({ bus: _, ...b }) => b),
    ...(link ? { linkPort: link.name } : {}),
  };
}

/** What was laid out as edits, for the board on the cable. */
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
  const edits = wiringEdits(airframe, answer.assignment, description);
  const other = Object.entries(edits).filter(([k, v]) => !sameValue(values[k], v));
  if (other.length === 0) return <span className="text-soft">The board is set like this.</span>;
  return (
    <Button disabled={disabled} onClick={() => dispatch(staged(Object.fromEntries(other)))}>
      Put {other.length} settings into the tray
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
      <WireLoads board={board} wishes={wishes} />
    </>
  );
}

/** How full the wires are that carry data. */
function WireLoads({ board, wishes }: { readonly board: BoardModel; readonly wishes: Wishes }) {
  const values = useApp(selectValues);
  const { wanted, room } = gnssLoadOf(values);
  const buses = board.buses.filter((b) => b.kind === 'i2c');
  return (
    <>
      <h2 className="label mt-3">What the wires carry</h2>
      <p className={`flex text-[13px] ${wanted > MOST_SHARE * room ? 'text-red' : ''}`}>
        GNSS at {values['gnss.baud']}
        <span className="num ml-auto text-[12.5px]">
          {Math.round(wanted)} of {Math.round(room)} B/s
        </span>
      </p>
      {buses.map((bus) => {
        const here = wishes.buses.filter((w) => w.kind === 'i2c' && w.bus === bus.name);
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

const outputNames: Readonly<Record<OutputKind, string>> = {
  'servo-pwm': 'servo',
  'motor-pwm': 'motor, pulses',
  dshot300: 'motor, DShot 300',
  dshot600: 'motor, DShot 600',
  led: 'LED strip',
};

/** Puts one output's wish on a pad, 0 for any; whatever was wished there may go anywhere. */
const placed = (outputs: Wishes['outputs'], wish: OutputWish, at: number): Wishes['outputs'] =>
  outputs.map((o) => {
    const { output, ...free } = o;
    if (o === wish) return at > 0 ? { ...free, output: at } : free;
    return at > 0 && output === at ? free : o;
  });

/** The same for a device and a port; an empty name is any. */
const ported = (serial: Wishes['serial'], wish: Wishes['serial'][number], at: string): Wishes['serial'] =>
  serial.map((s) => {
    const { port, ...free } = s;
    if (s === wish) return at ? { ...free, port: at } : free;
    return at && port === at ? free : s;
  });

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
      className="text-faint underline decoration-dotted"
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
              className="w-[76px] rounded-[3px] border border-line bg-sheet text-[12.5px]"
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
            <select
              aria-label={`Pad of ${o.name}`}
              className="w-[52px] rounded-[3px] border border-line bg-sheet text-[12.5px]"
              value={o.output ?? ''}
              onChange={(e) =>
                onChange({ ...wishes, outputs: placed(wishes.outputs, o, Number(e.target.value)) })
              }
            >
              <option value="">any</option>
              {board.outputs.map((p) => (
                <option key={p.output} value={p.output}>
                  {p.pad}
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
            <select
              aria-label={`Port of the ${deviceNames[s.device]}`}
              className="ml-auto w-[64px] rounded-[3px] border border-line bg-sheet text-[12.5px]"
              value={s.port ?? ''}
              onChange={(e) => onChange({ ...wishes, serial: ported(wishes.serial, s, e.target.value) })}
            >
              <option value="">any</option>
              {board.ports
                .filter((p) => p.name !== wishes.linkPort)
                .map((p) => (
                  <option key={p.name} value={p.name}>
                    {p.name}
                  </option>
                ))}
            </select>
            {away(deviceNames[s.device], () => onChange({ ...wishes, serial: without(wishes.serial, s) }))}
          </li>
        ))}
      </ul>
      <h2 className="label mt-3">Buses</h2>
      <ul>
        {wishes.buses.map((b, i) => (
          <li key={`${b.device}${i}`} className={`${row} ${mark(b)}`}>
            <span>{deviceNames[b.device]}</span>
            <span className="mr-auto text-[12.5px] text-faint">{b.kind.toUpperCase()}</span>
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
