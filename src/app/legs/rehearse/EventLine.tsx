import { useRef, useState } from 'react';
import {
  deviceNames,
  type FaultKind,
  faultDevices,
  faultKinds,
  faultKindsOf,
  MOST_EVENTS,
  type ScenarioEvent,
} from '#core/formats/scenario.ts';
import { formatClock, formatNumber } from '#core/units/units.ts';
import { dragOn } from '../../ui/dragOn.ts';
import { QuantityField } from '../../ui/Quantity.tsx';
import { Select } from '../../ui/Select.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { useTold } from '../../ui/Told.tsx';

const LEFT = 64;
const WIDTH = 700;

const words: Readonly<Record<Exclude<ScenarioEvent['do'], 'fault' | 'wind'>, string>> = {
  'link-lost': 'link lost',
  'link-back': 'link back',
  'return-switch-on': 'return switch on',
  'return-switch-off': 'return switch off',
};
const faultWords: Readonly<Record<FaultKind, string>> = {
  none: 'works again',
  dead: 'falls silent',
  stuck: 'says always the same',
  noisy: 'becomes noisy',
  slow: 'becomes slow',
  intermittent: 'comes and goes',
  jammed: 'is jammed',
};

/** Names of flags stand in up to three rows, so that neighbours do not cover each other. */
const MOST_ROWS = 3;
const ROW = 14;

function eventText(e: ScenarioEvent): string {
  if (e.do === 'fault') return `${deviceNames[e.device]} ${faultWords[e.fault]}`;
  if (e.do === 'wind') return `wind ${formatNumber(e.speedMps)} m/s from ${formatNumber(e.fromDeg, 0)}°`;
  return words[e.do];
}

const additions: readonly { readonly name: string; readonly make: (atS: number) => ScenarioEvent }[] = [
  { name: 'the link is lost', make: (atS) => ({ atS, do: 'link-lost' }) },
  { name: 'the link comes back', make: (atS) => ({ atS, do: 'link-back' }) },
  { name: 'the return switch goes on', make: (atS) => ({ atS, do: 'return-switch-on' }) },
  { name: 'the return switch goes off', make: (atS) => ({ atS, do: 'return-switch-off' }) },
  { name: 'the wind changes', make: (atS) => ({ atS, do: 'wind', speedMps: 12, fromDeg: 270 }) },
  { name: 'a device fails', make: (atS) => ({ atS, do: 'fault', device: 'gnss', fault: 'dead' }) },
];

interface Props {
  readonly events: readonly ScenarioEvent[];
  readonly limitS: number;
  /** Seconds that the line shows. */
  readonly spanS: number;
  readonly onChange: (events: ScenarioEvent[]) => void;
}

/** What happens on the flight, on a line of time: flags to drag, and the picked one's particulars below. */
export function EventLine({ events, limitS, spanS, onChange }: Props) {
  const svg = useRef<SVGSVGElement>(null);
  const [picked, setPicked] = useState<number | null>(null);
  const x = (s: number) => LEFT + (s / spanS) * WIDTH;
  const rows = Math.min(MOST_ROWS, Math.max(1, events.length));
  const line = 5 + ROW * rows;
  const rowOf = (i: number) => line - 8 - (i % rows) * ROW + 5;
  const change = (i: number, next: ScenarioEvent) => onChange(events.map((e, k) => (k === i ? next : e)));
  const drag = (p: { readonly x: number }, i: number) => {
    const atS = Math.round(Math.min(limitS, Math.max(5, ((p.x - LEFT) / WIDTH) * spanS)) / 5) * 5;
    if (atS !== events[i]!.atS) change(i, { ...events[i]!, atS });
  };
  const told = useTold();
  const event = picked === null ? undefined : events[picked];
  return (
    <div className="mt-1.5">
      <svg
        ref={svg}
        viewBox={`0 0 776 ${line + 10}`}
        className="w-full min-w-[660px]"
        role="group"
        aria-label="What happens, and when"
      >
        <text x={0} y={line} fontSize={13} fill="var(--soft)">
          happens
        </text>
        <path d={`M${LEFT} ${line}H${LEFT + WIDTH}`} stroke="var(--contour)" />
        {Array.from({ length: Math.floor(spanS / 60) + 1 }, (_, m) => (
          <path key={m} d={`M${x(60 * m)} ${line}v${m % 5 === 0 ? 6 : 3}`} stroke="var(--contour)" />
        ))}
        {events.map((e, i) => {
          const danger = e.do === 'link-lost' || (e.do === 'fault' && e.fault !== 'none');
          const color = danger ? 'var(--red)' : e.do === 'wind' ? 'var(--lake)' : 'var(--forest)';
          const right = x(e.atS) > LEFT + WIDTH - 130;
          return (
            <g
              key={`${i}-${e.do}`}
              role="slider"
              tabIndex={0}
              aria-label={`${told(eventText(e))}: arrows move it, Delete takes it away`}
              aria-valuenow={e.atS}
              aria-valuemin={0}
              aria-valuemax={limitS}
              aria-valuetext={formatClock(e.atS)}
              className="cursor-ew-resize touch-none"
              onFocus={() => setPicked(i)}
              {...dragOn(
                svg,
                (at) => drag(at, i),
                () => setPicked(i),
              )}
              onKeyDown={(k) => {
                const by = k.key === 'ArrowRight' ? 5 : k.key === 'ArrowLeft' ? -5 : 0;
                if (by !== 0) {
                  k.preventDefault();
                  const atS = Math.min(limitS, Math.max(5, e.atS + by * (k.shiftKey ? 6 : 1)));
                  change(i, { ...e, atS });
                } else if (k.key === 'Delete' || k.key === 'Backspace') {
                  k.preventDefault();
                  setPicked(null);
                  onChange(events.filter((_, n) => n !== i));
                }
              }}
            >
              <path
                d={`M${x(e.atS)} ${line + 1}V${rowOf(i) - 9}`}
                stroke={color}
                strokeWidth={picked === i ? 2.6 : 1.6}
              />
              <circle
                cx={x(e.atS)}
                cy={line}
                r={picked === i ? 4.5 : 3.5}
                fill="var(--sheet)"
                stroke={color}
                strokeWidth={2}
              />
              <text
                x={x(e.atS) + (right ? -5 : 5)}
                y={rowOf(i)}
                textAnchor={right ? 'end' : 'start'}
                fontSize={13}
                fill={color}
                stroke="var(--sheet)"
                strokeWidth={3}
                paintOrder="stroke"
              >
                {told(eventText(e))}
              </text>
              <rect x={x(e.atS) - 9} y={0} width={18} height={line + 10} fill="transparent" />
            </g>
          );
        })}
      </svg>
      <div className="flex min-h-[28px] flex-wrap items-baseline gap-x-4 gap-y-1 text-soft">
        <Select
          aria-label="Let something happen"
          disabled={events.length >= MOST_EVENTS}
          title={events.length >= MOST_EVENTS ? `A flight has up to ${MOST_EVENTS} events` : undefined}
          value=""
          className="text-[13px]"
          onChange={(e) => {
            const add = additions.find((a) => a.name === e.target.value);
            if (!add) return;
            const last = Math.max(60, ...events.map((x) => x.atS));
            onChange([...events, add.make(Math.min(limitS, last + 30))]);
            setPicked(events.length);
          }}
        >
          <option value="" disabled>
            let something happen…
          </option>
          {additions.map((a) => (
            <option key={a.name}>{a.name}</option>
          ))}
        </Select>
        {event && picked !== null && (
          <EventFields
            event={event}
            limitS={limitS}
            onChange={(next) => change(picked, next)}
            onRemove={() => {
              setPicked(null);
              onChange(events.filter((_, n) => n !== picked));
            }}
          />
        )}
      </div>
    </div>
  );
}

function EventFields({
  event: e,
  limitS,
  onChange,
  onRemove,
}: {
  readonly event: ScenarioEvent;
  readonly limitS: number;
  readonly onChange: (next: ScenarioEvent) => void;
  readonly onRemove: () => void;
}) {
  return (
    <>
      <span>
        after{' '}
        <QuantityField
          label="Happens after"
          unit="s"
          value={e.atS}
          min={1}
          max={limitS}
          step={5}
          onChange={(atS) => onChange({ ...e, atS })}
        />
      </span>
      {e.do === 'fault' && (
        <span>
          the{' '}
          <Select
            aria-label="Device that fails"
            look="small"
            value={e.device}
            onChange={(x) => {
              const device = faultDevices.find((d) => d === x.target.value)!;
              const kinds = faultKindsOf(device);
              onChange({ ...e, device, fault: kinds.includes(e.fault) ? e.fault : kinds[1]! });
            }}
          >
            {faultDevices.map((d) => (
              <option key={d} value={d}>
                {deviceNames[d]}
              </option>
            ))}
          </Select>{' '}
          <Select
            aria-label="How it fails"
            look="small"
            value={e.fault}
            onChange={(x) => onChange({ ...e, fault: faultKinds.find((k) => k === x.target.value)! })}
          >
            {faultKindsOf(e.device).map((k) => (
              <option key={k} value={k}>
                {faultWords[k]}
              </option>
            ))}
          </Select>
        </span>
      )}
      {e.do === 'wind' && (
        <>
          <span>
            wind{' '}
            <QuantityField
              label="Changed wind"
              unit="m/s"
              value={e.speedMps}
              min={0}
              max={40}
              step={1}
              onChange={(speedMps) => onChange({ ...e, speedMps })}
            />
          </span>
          <span>
            from{' '}
            <QuantityField
              label="Changed wind from"
              unit="deg"
              value={e.fromDeg}
              min={0}
              max={360}
              step={5}
              onChange={(fromDeg) => onChange({ ...e, fromDeg })}
            />
          </span>
        </>
      )}
      <TextButton onClick={onRemove}>take away</TextButton>
    </>
  );
}
