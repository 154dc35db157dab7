import { ChevronDown, ChevronUp } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import type { ActuatorId } from '#core/airframe/airframe.ts';
import { paintHeld } from '../drawing/CraftHeld.tsx';
import { benchControl } from '../session.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { Select } from '../ui/Select.tsx';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';
import { CraftInHands, HowHeld } from './CraftInHands.tsx';
import { Toggle } from './Toggle.tsx';
import { Transmitter } from './Transmitter.tsx';

/** The simulated workbench: what a person's hands do to craft, cable, battery and radio. Not part of the product. */
export function BenchDrawer() {
  const open = useApp((s) => s.ui.benchOpen);
  const airframe = useApp((s) => s.craft.airframe);
  const dispatch = useAppDispatch();
  const [state, setState] = useState<BenchState | null>(null);
  const held = useRef<SVGGElement>(null);
  const parts = useRef<SVGGElement>(null);
  const controls = state?.controls;
  useEffect(() => {
    if (!airframe) return;
    let stopped = false;
    const look = async () => {
      while (!stopped) {
        const now = await bench.state();
        if (now && !stopped) {
          const positions: Partial<Record<ActuatorId, number>> = {};
          airframe.surfaces.forEach((s, i) => {
            positions[s.id] = now.surfaces[i] ?? 0;
          });
          airframe.motors.forEach((m, i) => {
            positions[m.id] = (now.motors[i] ?? 0) > 60 ? 0.6 : 0;
          });
          paintHeld(held.current, parts.current, now.attitude, positions);
          setState((old) => (old && JSON.stringify(old) === JSON.stringify(now) ? old : now));
        }
        await new Promise((r) => setTimeout(r, open ? 33 : 400));
      }
    };
    void look();
    return () => {
      stopped = true;
    };
  }, [airframe, open]);
  const control = (change: Partial<BenchControls>) => {
    setState((old) => old && { ...old, controls: { ...old.controls, ...change } });
    void benchControl(change);
  };
  const Chevron = open ? ChevronDown : ChevronUp;
  return (
    <section
      aria-label="Bench, simulated"
      // In a narrow window it reaches over the stations, so that the craft on it stays large enough to see.
      className={`relative z-10 shrink-0 border-wood-dark border-t bg-wood text-on-wood ${open ? 'max-[1199px]:-ml-[212px]' : ''}`}
      style={open ? { boxShadow: '0 -6px 18px rgb(0 0 0 / 0.12)' } : { width: 230, borderTopRightRadius: 6 }}
    >
      <button
        type="button"
        aria-expanded={open}
        className="flex h-[30px] w-full items-center gap-3 px-3.5 font-label font-semibold text-[13px]"
        onClick={() => dispatch(uiChanged({ benchOpen: !open }))}
      >
        Bench
        <span className="font-medium">
          {controls ? `propellers ${controls.propellers ? 'on' : 'off'}` : ''}
        </span>
        {open && (
          <span className="font-medium opacity-80">
            simulated: what your hands do; none of it is a setting
          </span>
        )}
        <Chevron size={14} strokeWidth={1.8} className="ml-auto" aria-hidden="true" />
      </button>
      {open && controls && airframe && (
        <div className="grid grid-cols-[150px_minmax(0,1fr)_auto] gap-5 px-3.5 pb-3">
          <div className="flex flex-col gap-1">
            <Toggle
              name="USB cable"
              on={controls.usb}
              words={['out', 'in']}
              onChange={(usb) => control({ usb })}
            />
            <Toggle
              name="Battery"
              on={controls.battery}
              words={['out', 'in']}
              onChange={(battery) => control({ battery })}
            />
            <Toggle
              name="Propellers"
              on={controls.propellers}
              words={['off', 'on']}
              onChange={(propellers) => control({ propellers })}
            />
            <Toggle
              name="Craft is"
              on={controls.outdoors}
              words={['indoors', 'outdoors']}
              onChange={(outdoors) => control({ outdoors })}
            />
            <HowHeld state={state} onChange={control} />
          </div>
          <div className="min-w-0">
            <BoardOnBench state={state} onChange={control} />
            <div className="mt-1.5">
              <CraftInHands airframe={airframe} state={state} onChange={control} root={held} parts={parts} />
            </div>
          </div>
          <Transmitter controls={controls} onChange={control} />
        </div>
      )}
    </section>
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
