import { useMemo } from 'react';
import { actuatorNames, isMotor } from '#core/airframe/actuators.ts';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import { stallSpeed } from '#core/airframe/performance.ts';
import { type Authority, authorityOf, mixRows } from '#core/mixer/authority.ts';
import { type Flow, type FlowEnd, flowsOf } from '#core/mixer/flows.ts';
import { freeRowsOf, rowSources, sourceWords } from '#core/mixer/freeRows.ts';
import { type SettingKey, settingOf } from '#core/settings/typed.ts';
import { formatNumber, formatQuantity } from '#core/units/units.ts';
import { selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { SettingField } from '../../ui/SettingField.tsx';
import { Lead } from '../Lead.tsx';
import { MixRows } from './MixRows.tsx';
import { RotorArms } from './RotorArms.tsx';

/** Settings of the mix that this craft has a use for, with what each does. */
function dialsOf(airframe: Airframe): readonly (readonly [SettingKey, string])[] {
  const has = (end: string) => airframe.surfaces.some((s) => s.id.endsWith(end));
  const wings = !isRotorcraft(airframe);
  return [
    ...(has('elevon')
      ? ([
          ['mix.elevonRoll', 'elevons for roll'],
          ['mix.elevonPitch', 'for pitch'],
        ] as const)
      : []),
    ...(has('ruddervator')
      ? ([
          ['mix.ruddervatorPitch', 'V-tail for pitch'],
          ['mix.ruddervatorYaw', 'for yaw'],
        ] as const)
      : []),
    ...(has('flaperon') ? ([['mix.flaperonFlap', 'flaperons as flaps']] as const) : []),
    ...(has('aileron') || has('flaperon') ? ([['mix.aileronUp', 'less aileron down']] as const) : []),
    ...(has('rudder') || has('ruddervator') ? ([['mix.turnRudder', 'rudder with aileron']] as const) : []),
    ...(wings && airframe.motors.length > 1 ? ([['mix.differential', 'motors with yaw']] as const) : []),
    ...(!wings && airframe.kind !== 'tri' ? ([['mix.spinFlipped', '']] as const) : []),
  ];
}

/** From commands to outputs, as drawn flows, and what the craft makes of it. */
export default function MixingStation() {
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const airframe = useApp((s) => s.craft.airframe)!;
  const rotors = isRotorcraft(airframe);
  const rows = useMemo(() => mixRows(airframe, values), [airframe, values]);
  const flows = useMemo(() => flowsOf(rows, values, airframe.kind), [rows, values, airframe.kind]);
  const cruise = settingOf(values, 'nav.speed');
  const behindSwitch = useMemo(() => freeRowsOf(values).some((r) => r.channel > 0), [values]);
  const told = useMemo(
    () =>
      (rotors ? [0] : [stallSpeed(airframe), ...(cruise === undefined ? [] : [cruise])]).flatMap((v, i) => {
        const where = rotors
          ? 'in a hover'
          : `at ${formatQuantity(v, 'm/s', units, 1)}, ${i === 0 ? 'the stall' : 'cruise'}`;
        return [
          { ...authorityOf(airframe, values, v), where },
          ...(behindSwitch
            ? [{ ...authorityOf(airframe, values, v, true), where: `${where}, switches of rows on` }]
            : []),
        ];
      }),
    [airframe, values, rotors, cruise, behindSwitch, units],
  );
  const wanting = told[0]!.lacking.filter((a) => rotors || a !== 'yaw');
  return (
    <>
      <Lead>
        What of each command goes to which output, as broad as it is strong; a hollow flow is turned round.
        Below is what that does to this craft.
      </Lead>
      <Flows flows={flows} airframe={airframe} />
      <div className="mt-2 flex flex-wrap items-baseline gap-x-6 gap-y-1 text-soft">
        {dialsOf(airframe).map(([name, words]) => (
          <span key={name}>
            {words} <SettingField name={name} />
          </span>
        ))}
      </div>
      {rotors && <RotorArms airframe={airframe} />}
      <MixRows />
      <section className="mt-3 max-w-[760px] border-line border-t pt-3" aria-label="What full commands do">
        <h2 className="font-semibold">What full commands do</h2>
        <table className="mt-1 text-left">
          <thead className="text-[13px] text-soft">
            <tr>
              <th className="pr-8 font-normal">It begins to turn, °/s²</th>
              {(['roll', 'pitch', 'yaw'] as const).map((a) => (
                <th key={a} className="w-24 text-right font-normal">
                  {a}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {told.map((t) => (
              <tr key={t.where} className="border-line border-t">
                <th scope="row" className="py-1 pr-8 font-normal">
                  {t.where}
                </th>
                {t.turns.map((row, axis) => (
                  <td key={AXES[axis]} className="num text-right">
                    {formatNumber((row[axis]! * 180) / Math.PI, 0)}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        <ul className="mt-2">
          {told[0]!.lacking.map((axis) => (
            <li key={axis} className={wanting.includes(axis) ? 'text-red' : 'text-soft'}>
              {wanting.includes(axis)
                ? `Nothing turns it about ${axis}: no output that does so is driven.`
                : `Nothing turns it about ${axis} alone; a wing turns by banking.`}
            </li>
          ))}
          {lossesOf(told[0]!).map((words) => (
            <li key={words} className="text-soft">
              {words}
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}

const AXES = ['roll', 'pitch', 'yaw'] as const;
/** Less than this nobody notices. */
const LOSS_SHARE = 0.03;

/** What is lost where two commands are full at once. */
function lossesOf({ together }: Authority): readonly string[] {
  return together
    .filter((t) => t.commands.length === 2)
    .flatMap(({ commands, lost }) => {
      const parts = commands
        .filter((a) => lost[a] > LOSS_SHARE)
        .map((a) => `${Math.round(100 * lost[a])} % of ${a}`);
      return parts.length === 0
        ? []
        : [`Full ${commands.join(' and ')} together: ${parts.join(' and ')} find no room.`];
    });
}

const WIDTH = 728;
const FROM_X = 120;
const TO_X = 430;
const ROW = 44;

/** Commands at the left, outputs at the right; a flow is as broad as its weight, and hollow where it is turned round. */
function Flows({ flows, airframe }: { readonly flows: readonly Flow[]; readonly airframe: Airframe }) {
  const sources = rowSources.filter((s) => flows.some((f) => f.from === s));
  const outputs = [...new Set(flows.map((f) => f.row))];
  const height = Math.max(outputs.length, sources.length) * ROW + 16;
  const at = (k: number, n: number) => 8 + (height - 16) * ((k + 0.5) / n);
  const middle = (FROM_X + TO_X) / 2;
  if (outputs.length === 0)
    return (
      <p className="mt-3 text-amber" role="status">
        No output drives any part of this craft yet: find out which moves which first.
      </p>
    );
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${height}`}
      className="mt-2 w-full min-w-[640px]"
      role="img"
      aria-label={flows.map(words).join('; ')}
    >
      {[...flows]
        .sort((a, b) => Number(a.weight >= 0) - Number(b.weight >= 0))
        .map((f) => {
          const y0 = at(sources.indexOf(f.from), sources.length);
          const y1 = at(outputs.indexOf(f.row), outputs.length);
          const d = `M${FROM_X} ${y0}C${middle} ${y0} ${middle} ${y1} ${TO_X} ${y1}`;
          const broad = 2 + 9 * Math.min(1, Math.abs(f.weight));
          return (
            <g key={`${f.from} ${f.row.output} ${f.own?.n ?? ''}`} fill="none">
              <path
                d={d}
                stroke={f.own ? 'var(--amber)' : 'var(--lake)'}
                strokeOpacity={0.55}
                strokeWidth={broad}
                strokeDasharray={f.own && f.own.channel > 0 ? '7 5' : undefined}
              />
              {f.weight < 0 && <path d={d} stroke="var(--sheet)" strokeWidth={Math.max(1, broad - 3)} />}
            </g>
          );
        })}
      {sources.map((s, k) => (
        <g key={s}>
          <circle cx={FROM_X} cy={at(k, sources.length)} r={7} fill="var(--forest)" />
          <text
            x={FROM_X - 16}
            y={at(k, sources.length) + 5}
            textAnchor="end"
            fontSize={14}
            fontWeight={600}
            fill="var(--ink)"
          >
            {sourceWords[s]}
          </text>
        </g>
      ))}
      {outputs.map((row, k) => {
        const y = at(k, outputs.length);
        return (
          <g key={row.output}>
            <path
              d={
                row.drives && isMotor(row.drives)
                  ? `M${TO_X} ${y - 9}h9v18h-9z`
                  : `M${TO_X} ${y - 4}h16v8h-16z`
              }
              fill="var(--sheet)"
              stroke="var(--ink)"
              strokeWidth={1.4}
            />
            <text x={TO_X + 24} y={y} fontSize={14} fontWeight={600} fill="var(--ink)">
              {nameOf(row)}
              <tspan fontWeight={400} fill="var(--soft)">
                {row.drives ? ` output ${row.output}` : ''}
              </tspan>
            </text>
            <text x={TO_X + 24} y={y + 16} fontSize={13} fill="var(--soft)">
              {flows
                .filter((f) => f.row === row)
                .map(
                  (f, _, all) =>
                    // Which way each is meant stands at its beginning, and four are too many to say it again.
                    `${all.length > 3 ? sourceWords[f.from].split(' ')[0] : sourceWords[f.from]} ${signed(f.weight)}${f.own && f.own.channel > 0 ? `, by channel ${f.own.channel}` : ''}`,
                )
                .join(', ')}
            </text>
          </g>
        );
      })}
      <title>{airframe.name}</title>
    </svg>
  );
}

const nameOf = ({ drives, output }: FlowEnd) => (drives ? actuatorNames[drives] : `output ${output}`);
const signed = (w: number) => `${w < 0 ? '−' : '+'}${Math.abs(w).toFixed(2)}`;
const words = (f: Flow) => `${sourceWords[f.from]} to ${nameOf(f.row)} ${signed(f.weight)}`;
