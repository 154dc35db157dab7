import { useState } from 'react';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import { solder } from '../session.ts';
import { useApp } from '../store/store.ts';
import { Select } from '../ui/Select.tsx';
import { Toggle } from '../ui/Toggle.tsx';
import { type BenchControls, type BenchState, bench } from '../workers/index.ts';

interface Props {
  readonly state: BenchState;
  readonly onChange: (change: Partial<BenchControls>) => void;
}

const lamps = { dark: 'dark', steady: 'steady', slow: 'slow flashes', double: 'double flashes' } as const;
/** A stretch of way on foot, m, and the farthest that one goes. */
const WALK_M = 20;
const WALK_MOST_M = 200;
const WALKS = [
  { name: 'north', north: WALK_M, east: 0 },
  { name: 'east', north: 0, east: WALK_M },
  { name: 'south', north: -WALK_M, east: 0 },
  { name: 'west', north: 0, east: -WALK_M },
] as const;
const clampWalk = (m: number) => Math.max(-WALK_MOST_M, Math.min(WALK_MOST_M, m));
const tubes = ['open', 'covered', 'breathed into'] as const;

/** What lies in reach of the hand: meter, load, charger, fan, lamp, foam and the rest; each does to the craft what it does. */
export function BenchTools({ state, onChange }: Props) {
  const { controls } = state;
  const truth = useApp((s) => s.craft.file?.bench);
  const [charged, setCharged] = useState<string | null>(null);
  const mend = (change: Partial<BenchTruth>) => truth && void solder({ ...truth, ...change }, 'mended');
  return (
    <div className="grid w-full min-w-[300px] grid-cols-2 content-start gap-x-4 gap-y-1 text-[13px]">
      <p className="flex items-baseline justify-between">
        Meter on the battery
        <b className="num font-semibold">{controls.battery ? `${state.meterV.toFixed(2)} V` : '–'}</b>
      </p>
      <Toggle
        name={`Load, ${state.loadA} A`}
        on={controls.load}
        words={['off', 'on']}
        onChange={(load) => onChange({ load })}
      />
      <button
        type="button"
        disabled={controls.battery}
        title={controls.battery ? 'Take the battery out first' : undefined}
        className="flex items-center justify-between rounded-[4px] border border-wood-dark px-2 py-0.5 disabled:opacity-50"
        onClick={() => void bench.charge().then((mah) => setCharged(`put back ${Math.round(mah)} mAh`))}
      >
        Charger <b className="num font-semibold">{charged ?? 'charge'}</b>
      </button>
      <fieldset className="flex items-center justify-between gap-1">
        <legend className="sr-only">Swing it as if to throw</legend>
        Swing it
        <span className="flex gap-1">
          {(['firmly', 'weakly'] as const).map((how) => (
            <button
              key={how}
              type="button"
              className="rounded-[4px] border border-wood-dark px-1.5 py-0.5"
              onClick={() => void bench.toss(how)}
            >
              {how}
            </button>
          ))}
        </span>
      </fieldset>
      {controls.outdoors && (
        <fieldset className="col-span-2 flex items-center justify-between gap-1">
          <legend className="sr-only">Walk with it</legend>
          <span>
            Walk with it{' '}
            <b className="num font-semibold">
              {controls.walkNorthM === 0 && controls.walkEastM === 0
                ? ''
                : `to ${Math.abs(controls.walkNorthM)} m ${controls.walkNorthM < 0 ? 'south' : 'north'}, ${Math.abs(controls.walkEastM)} m ${controls.walkEastM < 0 ? 'west' : 'east'}`}
            </b>
          </span>
          <span className="flex gap-1">
            {WALKS.map(({ name, north, east }) => (
              <button
                key={name}
                type="button"
                className="rounded-[4px] border border-wood-dark px-1.5 py-0.5"
                onClick={() =>
                  onChange({
                    walkNorthM: clampWalk(controls.walkNorthM + north),
                    walkEastM: clampWalk(controls.walkEastM + east),
                  })
                }
              >
                {name}
              </button>
            ))}
          </span>
        </fieldset>
      )}
      <Toggle
        name="Fan in front"
        on={controls.fan}
        words={['off', 'on']}
        onChange={(fan) => onChange({ fan })}
      />
      <Toggle
        name="Lamp"
        on={controls.lamp}
        words={['off', 'on the board']}
        onChange={(lamp) => onChange({ lamp })}
      />
      <Toggle
        name="Screwdriver"
        on={controls.screwdriver}
        words={['away', 'at the compass']}
        onChange={(screwdriver) => onChange({ screwdriver })}
      />
      <Toggle
        name="Room"
        on={controls.cold}
        words={['warm', 'cold']}
        onChange={(cold) => onChange({ cold })}
      />
      <Toggle
        name="Lifted by 1 m"
        on={controls.liftM > 0}
        words={['no', 'yes']}
        onChange={(on) => onChange({ liftM: on ? 1 : 0 })}
      />
      <Toggle
        name="Receiver’s aerial"
        on={controls.aerial}
        words={['off', 'on']}
        onChange={(aerial) => onChange({ aerial })}
      />
      <p className="flex items-baseline justify-between">
        Receiver’s lamp
        <b className="font-semibold" data-testid="lamp">
          {lamps[state.lamp]}
        </b>
      </p>
      {truth && (
        <label className="flex items-center gap-1.5">
          Receiver’s wire
          <Select
            look="wood"
            className="flex-1"
            value={truth.receiver.oneWire ? 'one' : truth.receiver.turned ? 'turned' : 'usual'}
            onChange={(e) =>
              mend({
                receiver: {
                  ...truth.receiver,
                  turned: e.target.value === 'turned',
                  oneWire: e.target.value === 'one',
                },
              })
            }
          >
            <option value="usual">as it comes</option>
            <option value="turned">levels turned</option>
            <option value="one">one for both ways</option>
          </Select>
        </label>
      )}
      {truth?.receiver.unbound && (
        <button
          type="button"
          className="flex items-center justify-between rounded-[4px] border border-wood-dark px-2 py-0.5"
          onClick={() => mend({ receiver: { ...truth.receiver, unbound: false } })}
        >
          Bind button <b className="font-semibold">press</b>
        </button>
      )}
      {truth?.fitted.airspeed && (
        <label className="flex items-center gap-1.5">
          Tube
          <Select
            look="wood"
            className="flex-1"
            value={controls.tube}
            onChange={(e) => onChange({ tube: e.target.value as BenchControls['tube'] })}
          >
            {tubes.map((t) => (
              <option key={t}>{t}</option>
            ))}
          </Select>
        </label>
      )}
      {truth && (
        <Toggle
          name="Foam"
          on={truth.baroShielded}
          words={['none', 'on the barometer']}
          onChange={(baroShielded) => mend({ baroShielded })}
        />
      )}
      {truth?.fitted.compass && (
        <Toggle
          name="Compass"
          on={truth.iron.perAmp < NEAR_WIRES}
          words={['over the wires', 'on a mast']}
          onChange={(mast) => mend({ iron: { ...truth.iron, perAmp: mast ? ON_MAST : OVER_WIRES } })}
        />
      )}
    </div>
  );
}

/** Field of the battery lead at a compass, uT per ampere. */
const ON_MAST = 0.02;
const OVER_WIRES = 0.5;
const NEAR_WIRES = 0.1;
