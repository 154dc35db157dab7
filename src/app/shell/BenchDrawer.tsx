import { ChevronDown, ChevronUp } from 'lucide-react';
import { useEffect, useMemo, useRef, useState } from 'react';
import { type ActuatorId, widthOf } from '#core/airframe/airframe.ts';
import { topView } from '#core/airframe/outline.ts';
import { CraftRear, paintRear } from '../drawing/CraftRear.tsx';
import { CraftTop, paintTop } from '../drawing/CraftTop.tsx';
import { benchControl } from '../session.ts';
import { useApp, useAppDispatch } from '../store/store.ts';
import { uiChanged } from '../store/uiSlice.ts';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';
import { Toggle } from './Toggle.tsx';
import { Transmitter } from './Transmitter.tsx';

const DEG = 180 / Math.PI;

/** The simulated workbench: what a person's hands do to craft, cable, battery and radio. Not part of the product. */
export function BenchDrawer() {
  const open = useApp((s) => s.ui.benchOpen);
  const airframe = useApp((s) => s.craft.airframe);
  const dispatch = useAppDispatch();
  const [state, setState] = useState<BenchState | null>(null);
  const top = useRef<SVGGElement>(null);
  const rear = useRef<SVGGElement>(null);
  const bank = useRef<SVGGElement>(null);
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
          paintTop(top.current, positions);
          paintRear(rear.current, positions);
          bank.current?.setAttribute('transform', `rotate(${(now.roll * DEG).toFixed(1)})`);
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
  const view = useMemo(() => (airframe ? topView(airframe) : null), [airframe]);
  const control = (change: Partial<BenchControls>) => {
    setState((old) => old && { ...old, controls: { ...old.controls, ...change } });
    void benchControl(change);
  };
  const Chevron = open ? ChevronDown : ChevronUp;
  const { length = 1, ahead = 0 } = view ?? {};
  const scale = airframe ? Math.min(168 / widthOf(airframe), 138 / (length + ahead)) : 1;
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
            <Tilt
              name="Bank"
              value={controls.rollDeg}
              limit={60}
              onChange={(rollDeg) => control({ rollDeg })}
            />
            <Tilt
              name="Nose"
              value={controls.pitchDeg}
              limit={45}
              onChange={(pitchDeg) => control({ pitchDeg })}
            />
            <button
              type="button"
              className="self-start rounded-[3px] px-1 text-[12px] underline decoration-dotted"
              onClick={() => control({ rollDeg: 0, pitchDeg: 0 })}
            >
              Lay it flat
            </button>
          </div>
          <div className="min-w-0">
            <BoardOnBench state={state} onChange={control} />
            <svg viewBox="-136 -8 276 152" className="h-[146px] w-full rounded-[4px]" aria-hidden="true">
              <g transform="translate(-50 0)">
                <g transform={`translate(0 ${ahead * scale})`}>
                  <CraftTop airframe={airframe} scale={scale} root={top} />
                </g>
              </g>
              <g transform="translate(92 66)">
                <g ref={bank}>
                  <CraftRear airframe={airframe} scale={96 / widthOf(airframe)} root={rear} />
                </g>
                <text y={52} textAnchor="middle" fontSize={11}>
                  from behind
                </text>
              </g>
            </svg>
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
        <select
          className="min-w-0 flex-1 rounded-[4px] border border-wood-dark bg-transparent px-1 py-0.5"
          value={state.serial}
          onChange={(e) => void bench.takeBoard(e.target.value)}
        >
          {shelf.map((b) => (
            <option key={b.serial} value={b.serial} className="bg-sheet text-ink">
              {b.name}, {b.story}
            </option>
          ))}
        </select>
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

interface TiltProps {
  readonly name: string;
  readonly value: number;
  readonly limit: number;
  readonly onChange: (deg: number) => void;
}

function Tilt({ name, value, limit, onChange }: TiltProps) {
  return (
    <label className="flex items-center gap-2 text-[13px]">
      <span className="w-9">{name}</span>
      <input
        type="range"
        min={-limit}
        max={limit}
        value={value}
        aria-label={`${name} of the craft, degrees`}
        className="w-full min-w-0 accent-on-wood"
        onChange={(e) => onChange(Number(e.target.value))}
      />
      <span className="num w-9 text-right text-[12px]">{value}°</span>
    </label>
  );
}
