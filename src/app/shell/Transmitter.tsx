import { useEffect, useRef } from 'react';
import { useApp } from '../store/store.ts';
import { Toggle } from '../ui/Toggle.tsx';
import type { BenchControls } from '../workers/index.ts';

interface Props {
  readonly controls: BenchControls;
  readonly onChange: (change: Partial<BenchControls>) => void;
}

const SIZE = 92;
const KEY_STEP = 0.1;

/** A two-stick transmitter for mouse, keys and a game controller. Left: yaw and throttle. Right: roll and pitch. */
export function Transmitter({ controls, onChange }: Props) {
  const hasRates = useApp((s) => s.craft.file?.bench?.transmitter.lowRate !== undefined);
  const hasDial = useApp((s) => s.craft.file?.bench?.transmitter.dial !== undefined);
  const latest = useRef(onChange);
  latest.current = onChange;
  useGameController((change) => latest.current(change));
  return (
    <fieldset className="min-w-0">
      <legend className="sr-only">Transmitter</legend>
      <div className="flex gap-2">
        <div>
          <p className="font-label text-[12px]">
            throttle, yaw <span className="font-normal">W S, A D</span>
          </p>
          <Stick
            label="Left stick: throttle and yaw. Keys W A S D."
            x={controls.stickYaw}
            y={controls.stickThrottle * 2 - 1}
            springY={false}
            keys={{ up: 'w', down: 's', left: 'a', right: 'd' }}
            onMove={(x, y) => onChange({ stickYaw: x, stickThrottle: (y + 1) / 2 })}
          />
        </div>
        <div>
          <p className="font-label text-[12px]">
            pitch, roll <span className="font-normal">arrows</span>
          </p>
          {/* Pulling back is down on the stick and nose up in the air. */}
          <Stick
            label="Right stick: pitch and roll. Arrow keys; down pulls."
            x={controls.stickRoll}
            y={-controls.stickPitch}
            springY
            keys={{ up: 'arrowup', down: 'arrowdown', left: 'arrowleft', right: 'arrowright' }}
            onMove={(x, y) => onChange({ stickRoll: x, stickPitch: -y })}
          />
        </div>
        <div className="flex w-[120px] flex-col gap-1">
          <Toggle
            name="Radio"
            on={controls.transmitter}
            words={['off', 'on']}
            onChange={(transmitter) => onChange({ transmitter })}
          />
          <Toggle
            name="Arm"
            on={controls.armSwitch}
            words={['off', 'on']}
            onChange={(armSwitch) => onChange({ armSwitch })}
          />
          <button
            type="button"
            className="flex justify-between rounded-[4px] border border-wood-dark px-2 py-0.5 text-[13px]"
            aria-label={`Three-position switch at ${controls.attitudeSwitch + 1}`}
            onClick={() => onChange({ attitudeSwitch: ((controls.attitudeSwitch + 1) % 3) as 0 | 1 | 2 })}
          >
            Attitude <b className="font-semibold">{['near', 'middle', 'far'][controls.attitudeSwitch]}</b>
          </button>
          <Toggle
            name="Home"
            on={controls.returnSwitch}
            words={['off', 'on']}
            onChange={(returnSwitch) => onChange({ returnSwitch })}
          />
          {hasDial && (
            <label className="flex items-center gap-1 text-[13px]">
              Dial
              <input
                type="range"
                min={0}
                max={1}
                step={0.02}
                value={controls.dial}
                aria-label="Dial of the transmitter"
                className="w-full accent-on-wood"
                onChange={(e) => onChange({ dial: Number(e.target.value) })}
              />
            </label>
          )}
          {hasRates && (
            <Toggle
              name="Rates"
              on={controls.lowRates}
              words={['full', 'low']}
              onChange={(lowRates) => onChange({ lowRates })}
            />
          )}
        </div>
      </div>
    </fieldset>
  );
}

interface StickProps {
  readonly label: string;
  readonly x: number;
  readonly y: number;
  readonly springY: boolean;
  readonly keys: {
    readonly up: string;
    readonly down: string;
    readonly left: string;
    readonly right: string;
  };
  readonly onMove: (x: number, y: number) => void;
}

const clamp1 = (v: number) => Math.max(-1, Math.min(1, v));

function Stick({ label, x, y, springY, keys, onMove }: StickProps) {
  const dragging = useRef(false);
  const at = (e: React.PointerEvent<HTMLElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    onMove(
      clamp1(((e.clientX - box.left) / box.width) * 2 - 1),
      clamp1(1 - ((e.clientY - box.top) / box.height) * 2),
    );
  };
  const release = () => {
    if (!dragging.current) return;
    dragging.current = false;
    onMove(0, springY ? 0 : y);
  };
  return (
    <div
      role="slider"
      aria-label={label}
      aria-valuenow={Math.round(y * 100)}
      aria-valuemin={-100}
      aria-valuemax={100}
      aria-valuetext={`sideways ${Math.round(x * 100)}, along ${Math.round(y * 100)}`}
      tabIndex={0}
      className="relative touch-none rounded-full border-2 border-wood-dark bg-[color-mix(in_srgb,var(--on-wood)_14%,transparent)]"
      style={{ width: SIZE, height: SIZE }}
      onPointerDown={(e) => {
        dragging.current = true;
        e.currentTarget.setPointerCapture(e.pointerId);
        at(e);
      }}
      onPointerMove={(e) => dragging.current && at(e)}
      onPointerUp={release}
      onPointerCancel={release}
      onKeyDown={(e) => {
        // With a modifier they are the application's: Ctrl+S writes, whatever has the focus.
        if (e.ctrlKey || e.metaKey || e.altKey) return;
        const key = e.key.toLowerCase();
        const dx = key === keys.right ? KEY_STEP : key === keys.left ? -KEY_STEP : 0;
        const dy = key === keys.up ? KEY_STEP : key === keys.down ? -KEY_STEP : 0;
        if (dx === 0 && dy === 0) return;
        e.preventDefault();
        e.stopPropagation();
        onMove(clamp1(x + dx), clamp1(y + dy));
      }}
      onKeyUp={(e) => {
        const key = e.key.toLowerCase();
        if (key === keys.left || key === keys.right) onMove(0, y);
        if (springY && (key === keys.up || key === keys.down)) onMove(x, 0);
      }}
    >
      <span
        className="absolute size-6 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 border-on-wood bg-wood"
        style={{ left: `${50 + 42 * x}%`, top: `${50 - 42 * y}%` }}
      />
    </div>
  );
}

/** A real game controller, in the usual axis order of the Gamepad standard; it counts once it is moved. */
function useGameController(onChange: (change: Partial<BenchControls>) => void): void {
  const latest = useRef(onChange);
  latest.current = onChange;
  useEffect(() => {
    let last = '';
    const timer = setInterval(() => {
      const pad = navigator.getGamepads?.().find((p) => p?.connected && p.axes.length >= 4);
      if (!pad) return;
      const [yaw = 0, throttle = 0, roll = 0, pitch = 0] = pad.axes.map((a) =>
        Math.abs(a) < 0.04 ? 0 : Number(a.toFixed(3)),
      );
      const now = `${yaw} ${throttle} ${roll} ${pitch}`;
      if (last !== '' && now !== last) {
        latest.current({
          stickYaw: yaw,
          stickThrottle: (1 - throttle) / 2,
          stickRoll: roll,
          stickPitch: pitch,
        });
      }
      last = now;
    }, 33);
    return () => clearInterval(timer);
  }, []);
}
