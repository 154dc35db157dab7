import { useEffect, useLayoutEffect, useRef, useState } from 'react';
import { type ActuatorId, actuatorNames, type FittingId } from '#core/airframe/actuators.ts';
import type { Airframe } from '#core/airframe/airframe.ts';
import { directionWords } from '#core/mixer/roles.ts';
import { paintHeld } from '../drawing/CraftHeld.tsx';
import { Select } from '../ui/Select.tsx';
import { Toggle } from '../ui/Toggle.tsx';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';
import { BenchRods } from './BenchRods.tsx';
import { BenchStrip } from './BenchStrip.tsx';
import { BenchTools } from './BenchTools.tsx';
import { CraftInHands, HowHeld } from './CraftInHands.tsx';
import { ToldLines } from './ToldLines.tsx';
import { Transmitter } from './Transmitter.tsx';

const trays = [
  { id: 'radio', name: 'Transmitter' },
  { id: 'screen', name: 'Its screen' },
  { id: 'tools', name: 'Tools' },
  { id: 'rods', name: 'Ruler' },
  { id: 'strip', name: 'Strip' },
] as const;
export type Tray = (typeof trays)[number]['id'];

interface Props {
  readonly airframe: Airframe;
  readonly state: BenchState;
  readonly onChange: (change: Partial<BenchControls>) => void;
  /** What lies at hand: the transmitter or the tools. */
  readonly tray: Tray;
  readonly onTray: (tray: Tray) => void;
}

/** What lies on the open bench: cable and battery, the board, the craft in hands, the transmitter. */
export default function BenchTable({ airframe, state, onChange, tray, onTray }: Props) {
  const { controls } = state;
  const held = useRef<SVGGElement>(null);
  const parts = useRef<SVGGElement>(null);
  useLayoutEffect(() => {
    const positions: Partial<Record<ActuatorId, number>> = {};
    airframe.surfaces.forEach((s, i) => {
      positions[s.id] = state.surfaces[i] ?? 0;
    });
    airframe.motors.forEach((m, i) => {
      positions[m.id] = (state.motors[i] ?? 0) > 60 ? 0.6 : 0;
    });
    paintHeld(held.current, parts.current, state.attitude, positions);
  }, [airframe, state]);
  return (
    <div className="grid grid-cols-[150px_minmax(0,1fr)] gap-x-5 gap-y-2 px-3.5 pb-3 min-[900px]:grid-cols-[150px_minmax(0,1fr)_auto]">
      <div className="flex flex-col gap-1">
        <Toggle
          name="USB cable"
          on={controls.usb}
          words={['out', 'in']}
          onChange={(usb) => onChange({ usb })}
        />
        <Toggle
          name="Battery"
          on={controls.battery}
          words={['out', 'in']}
          onChange={(battery) => onChange({ battery })}
        />
        <Toggle
          name="Propellers"
          on={controls.propellers}
          words={['off', 'on']}
          onChange={(propellers) => onChange({ propellers })}
        />
        <Toggle
          name="Craft is"
          on={controls.outdoors}
          words={['indoors', 'outdoors']}
          onChange={(outdoors) => onChange({ outdoors })}
        />
        <HowHeld state={state} onChange={onChange} />
      </div>
      <div className="min-w-0">
        <BoardOnBench state={state} onChange={onChange} />
        <div className="mt-1.5">
          <CraftInHands airframe={airframe} state={state} onChange={onChange} root={held} parts={parts} />
          {state.tones !== 'none' && (
            <p className="text-[13px]" role="status">
              The motors give {state.tones === 'one' ? 'one tone' : 'three tones'}.
            </p>
          )}
          <Carried airframe={airframe} at={state.fittings} />
        </div>
      </div>
      <div className="min-w-0">
        <fieldset className="mb-1.5 flex gap-1 text-[13px]">
          <legend className="sr-only">What is at hand</legend>
          {trays.map(({ id, name }) => (
            <button
              key={id}
              type="button"
              aria-pressed={tray === id}
              className={`rounded-[4px] border px-2 py-0.5 ${tray === id ? 'border-on-wood font-semibold' : 'border-wood-dark'}`}
              onClick={() => onTray(id)}
            >
              {name}
            </button>
          ))}
        </fieldset>
        {tray === 'tools' ? (
          <BenchTools state={state} onChange={onChange} />
        ) : tray === 'rods' ? (
          <BenchRods airframe={airframe} angles={state.angles} />
        ) : tray === 'screen' ? (
          <ToldLines shown={state.screen} />
        ) : tray === 'strip' ? (
          <BenchStrip controls={controls} />
        ) : (
          <Transmitter controls={controls} onChange={onChange} />
        )}
      </div>
    </div>
  );
}

/** Travel of a servo that moves what a craft carries, to either side, degrees. */
const CARRIED_DEG = 45;

/** Where what the craft carries stands. */
function Carried({ airframe, at }: { readonly airframe: Airframe; readonly at: readonly number[] }) {
  const { fittings = [] } = airframe;
  if (fittings.length === 0) return null;
  const stands = (id: FittingId, v: number) => {
    if (id === 'lights') return v > 0.3 ? 'on' : 'off';
    if (id === 'release') return v > 0.3 ? 'open' : 'shut';
    const deg = Math.round(Math.abs(v) * CARRIED_DEG);
    return deg === 0 ? 'in its middle' : `${deg}° ${directionWords(id)[v > 0 ? 0 : 1]}`;
  };
  return (
    <ul aria-label="What the craft carries" className="flex flex-wrap gap-x-4 text-[13px]">
      {fittings.map((id, i) => (
        <li key={id}>
          {actuatorNames[id]} <b className="num font-semibold">{stands(id, at[i] ?? 0)}</b>
        </li>
      ))}
    </ul>
  );
}

const CARD_NEXT = { out: 'in', in: 'full', full: 'out' } as const;

/** Which board lies here, its loader's button, and its memory card where it takes one. */
function BoardOnBench({
  state,
  onChange,
}: {
  readonly state: BenchState;
  readonly onChange: (change: Partial<BenchControls>) => void;
}) {
  const [shelf, setShelf] = useState<Awaited<ReturnType<typeof bench.shelf>>>([]);
  useEffect(() => {
    void bench.shelf().then(setShelf);
  }, []);
  const { controls } = state;
  return (
    <div className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[13px]">
      <label className="flex w-full min-w-0 items-center gap-1.5">
        Board
        <Select
          look="wood"
          className="flex-1"
          value={state.serial}
          onChange={(e) => void bench.takeBoard(e.target.value)}
        >
          {shelf.map((b) => (
            <option key={b.serial} value={b.serial}>
              {b.name}, {b.story}
            </option>
          ))}
        </Select>
      </label>
      <Toggle
        name="Loader button"
        on={controls.loaderButton}
        words={['free', 'held']}
        onChange={(loaderButton) => onChange({ loaderButton })}
      />
      {state.takesCard && (
        <button
          type="button"
          className="flex items-center gap-2 rounded-[4px] border border-wood-dark bg-transparent px-2 py-0.5"
          onClick={() => onChange({ card: CARD_NEXT[controls.card] })}
        >
          Memory card <b className="font-semibold">{controls.card}</b>
        </button>
      )}
    </div>
  );
}
