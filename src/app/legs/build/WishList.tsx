import {
  type BusDevice,
  busDevices,
  deviceNames,
  type SerialDevice,
  serialDevices,
} from '#core/board/deviceKinds.ts';
import type { BoardModel } from '#core/board/model.ts';
import { placed, ported } from '#core/board/placing.ts';
import type { Assignment } from '#core/board/solve.ts';
import { type OutputKind, type OutputWish, protocolOf, type Wishes } from '#core/board/wishes.ts';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { WirePower } from './WirePower.tsx';

const outputNames: Readonly<Record<OutputKind, string>> = {
  'servo-pwm': 'servo',
  'motor-pwm': 'motor, pulses',
  dshot300: 'motor, DShot 300',
  dshot600: 'motor, DShot 600',
  led: 'LED strip',
};
/** How one that is in the list is driven, in few words. */
const drivenBy: Readonly<Record<OutputKind, string>> = {
  'servo-pwm': 'servo',
  'motor-pwm': 'pulses',
  dshot300: 'DShot 300',
  dshot600: 'DShot 600',
  led: 'LED',
};

/** Wishes by kind, each to change or take away, and one list to add from. */
export function WishList({
  board,
  wishes,
  assignment,
  colliding,
  onChange,
  onReset,
}: {
  readonly board: BoardModel;
  readonly wishes: Wishes;
  readonly assignment: Assignment | null;
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
    <TextButton aria-label={`Take away: ${text}`} tone="faint" onClick={onClick}>
      away
    </TextButton>
  );
  const without = <T,>(list: readonly T[], item: T) => list.filter((x) => x !== item);
  const kindChanged = (o: OutputWish, kind: OutputKind): OutputWish => {
    const { rateHz: _, ...rest } = o;
    return { ...rest, kind };
  };
  return (
    <section aria-label="What is to be connected" className="min-h-0 overflow-y-auto" tabIndex={0}>
      <Select
        aria-label="Connect something"
        value=""
        className="w-full"
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
      </Select>
      <h2 className="label mt-3">Outputs</h2>
      <ul>
        {wishes.outputs.map((o, i) => (
          <li key={`${o.name}${i}`} className={`${row} ${mark(o)}`}>
            <span className="min-w-0 flex-1 truncate">{o.name}</span>
            <Select
              aria-label={`How ${o.name} is driven`}
              title={protocolOf(o)}
              look="small"
              className="w-[84px]"
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
              {Object.entries(drivenBy).map(([kind, name]) => (
                <option key={kind} value={kind}>
                  {name}
                </option>
              ))}
            </Select>
            <Select
              aria-label={`Pad of ${o.name}`}
              look="small"
              className="w-[52px]"
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
            </Select>
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
            <Select
              aria-label={`Port of the ${deviceNames[s.device]}`}
              look="small"
              className="ml-auto w-[64px]"
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
            </Select>
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
      <WirePower board={board} wishes={wishes} assignment={assignment} />
      {onReset && (
        <TextButton tone="soft" className="mt-3" onClick={onReset}>
          Back to what the settings say
        </TextButton>
      )}
    </section>
  );
}
