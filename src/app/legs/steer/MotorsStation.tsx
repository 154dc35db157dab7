import { useMemo, useState } from 'react';
import { actuatorNames, isMotor, type MotorId } from '#core/airframe/actuators.ts';
import { isRotorcraft, type Motor } from '#core/airframe/airframe.ts';
import { thrustAt } from '#core/airframe/performance.ts';
import { kolkEntries, kolkRefuses } from '#core/controllers/kolk.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import { turnsWrong } from '#core/proofs/follows.ts';
import { type Proof, stateOf } from '#core/proofs/proofs.ts';
import type { SeenAs } from '#core/proofs/seen.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import type { SettingEntry } from '#core/settings/catalogueSchema.ts';
import { settingOf } from '#core/settings/typed.ts';
import { displayOf, formatNumber, formatQuantity } from '#core/units/units.ts';
import { procedures } from '../../board/procedures.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { selectCatalogue, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { useApp } from '../../store/store.ts';
import { Bar } from '../../ui/Bar.tsx';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { NumberField } from '../../ui/NumberField.tsx';
import { Select } from '../../ui/Select.tsx';
import { SettingField } from '../../ui/SettingField.tsx';
import { Table } from '../../ui/Table.tsx';
import { Lead } from '../Lead.tsx';
import { ControllerUpdate } from './ControllerUpdate.tsx';
import { LeaveToMove } from './HoldBar.tsx';
import { TeachEnds } from './TeachEnds.tsx';

const GRAVITY = 9.80665;

/** Motors with what they should pull, and their controllers. */
export default function MotorsStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const wrong = turnsWrong(proofs, world);
  const moved = (id: MotorId) =>
    stateOf(
      proofs.find((p) => p.seen.kind === 'moved' && p.seen.actuator === id),
      world,
    );
  const full = useMemo(
    () => airframe.motors.map((m) => thrustAt({ ...airframe, motors: [m] }, 1, 0)),
    [airframe],
  );
  const [allowed, setAllowed] = useState(false);
  const told = useSampled(() => {
    const all = live('motors');
    return all && all.length > 0 ? all : null;
  }, 250);
  const now = (output: number | null) => {
    const t = told?.find((x) => x.output === output);
    return t
      ? `${formatNumber(t.rpm, 0)} rpm, ${formatQuantity(t.amps, 'a', units, 1)}, ${formatQuantity(t.degC, 'degc', units, 0)}`
      : 'tells nothing';
  };
  if (airframe.motors.length === 0)
    return (
      <>
        <Lead begins={false} />
        <p className="mt-3 text-soft">This craft has no motor.</p>
      </>
    );
  return (
    <>
      <Lead />
      <Table className="mt-3 max-w-[760px]">
        <thead>
          <tr>
            <th>Motor</th>
            <th>Output</th>
            <th>Turns, {isRotorcraft(airframe) ? 'seen from above' : 'seen from behind'}</th>
            <th>Pulls standing still</th>
            <th>Draws then</th>
            {told && <th>Now</th>}
          </tr>
        </thead>
        <tbody>
          {airframe.motors.map((m, i) => (
            <tr key={m.id}>
              <td className="font-medium">{actuatorNames[m.id]}</td>
              <td className="num">{outputDriving(values, m.id) ?? '–'}</td>
              <td>
                {m.spin}
                {wrong.includes(m.id) ? (
                  <span className="text-red">, seen the other way</span>
                ) : moved(m.id) === 'proven' ? (
                  <span className="text-forest">, seen to move</span>
                ) : (
                  <span className="text-faint">, not seen yet</span>
                )}
              </td>
              <td className="num">{formatQuantity((1000 * full[i]!.thrust) / GRAVITY, 'g', units, 0)}</td>
              <td className="num">{formatQuantity(full[i]!.currentA, 'a', units, 0)}</td>
              {told && <td className="num">{now(outputDriving(values, m.id))}</td>}
            </tr>
          ))}
        </tbody>
      </Table>
      <p className="mt-1 max-w-[760px] text-[13px] text-soft">
        {spins(airframe.motors)} A spring balance and the board’s current show whether a motor does what its
        propeller should: propellers on, craft tied down. Idle when armed <SettingField name="motor.idle" />
      </p>
      <div className="mt-4 flex flex-wrap items-center gap-3 border-line border-t pt-3">
        <LeaveToMove onAllowed={setAllowed} />
        <span className="text-[13px] text-soft">
          Controllers are taught, asked and told only while nobody can be hurt by what they turn.
        </span>
      </div>
      <TeachEnds airframe={airframe} allowed={allowed} />
      <Controllers allowed={allowed} />
      {isRotorcraft(airframe) && <OnItsBack />}
    </>
  );
}

/** How a rotorcraft that lies on its back turns itself over. */
function OnItsBack() {
  const has = useApp((s) => selectCatalogue(s).entry('flip.channel')) !== undefined;
  if (!has) return null;
  return (
    <section className="mt-4 max-w-[760px] border-line border-t pt-3 pb-2" aria-label="On its back">
      <h2 className="font-semibold">When it lies on its back</h2>
      <p className="text-soft">
        With this switch on it arms there too, to turn itself over and nothing else: the stick has the rotors
        of its side turn backwards and lift it. Rotors have to be driven by frames, which turn them round.
        Upright again, nothing pushes it on; disarm, and arm anew to fly. Upright or in the air the switch
        changes nothing.
      </p>
      <p className="mt-1 flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <span>
          channel <SettingField name="flip.channel" />
        </span>
        <span>
          from <SettingField name="flip.from" />
        </span>
        <span>
          to <SettingField name="flip.to" />
        </span>
        <span>
          power <SettingField name="flip.power" />
        </span>
      </p>
    </section>
  );
}

/** Whether the propellers’ turning cancels out. */
function spins(motors: readonly Motor[]): string {
  if (motors.length === 1) return 'One propeller: its torque rolls the craft a little at full throttle.';
  const clockwise = motors.filter((m) => m.spin === 'clockwise').length;
  return 2 * clockwise === motors.length
    ? 'As many turn clockwise as the other way: their torques cancel. Fit each with the propeller of its hand.'
    : 'They do not turn in equal numbers each way: their torques do not cancel at full throttle.';
}

type Read = SeenAs<'controller'>;

/** The controllers' own memories. */
function Controllers({ allowed }: { readonly allowed: boolean }) {
  const values = useApp(selectValues);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const ready = useApp((s) => s.board.link === 'ready');
  const newest = useApp((s) =>
    s.procedure.newest?.kind === 'controllers-read' || s.procedure.newest?.kind === 'controller-write'
      ? s.procedure.newest
      : null,
  );
  const busy = newest?.state === 'running' || newest?.state === 'away';
  const [drafts, setDrafts] = useState<Readonly<Record<number, Values>>>({});
  const read = proofs
    .flatMap((p: Proof) => (p.seen.kind === 'controller' ? [{ seen: p.seen, state: stateOf(p, world) }] : []))
    .sort((a, b) => a.seen.output - b.seen.output);
  const answering = read.filter((r) => r.seen.state === 'answers' && r.state === 'proven').map((r) => r.seen);
  const draftOf = (c: Read): Values => drafts[c.output] ?? {};
  const edit = (c: Read, key: string, v: SettingValue) =>
    setDrafts((d) => {
      const { [key]: _, ...rest } = d[c.output] ?? {};
      return { ...d, [c.output]: c.values[key] === v ? rest : { ...rest, [key]: v } };
    });
  const waiting = answering.filter((c) => Object.keys(draftOf(c)).length > 0);
  const write = async (of: readonly Read[]) => {
    for (const c of of) {
      const changes = draftOf(c);
      if (Object.keys(changes).length === 0) continue;
      await procedures.begin('controller-write', { output: c.output, ...changes });
      setDrafts(({ [c.output]: _, ...rest }) => rest);
    }
  };
  const nameOf = (output: number) => {
    const drives = settingOf(values, `out.${output}.drives`);
    return drives && isMotor(drives) ? actuatorNames[drives] : `output ${output}`;
  };
  return (
    <section className="mt-4 border-line border-t pt-3 pb-2" aria-label="Controllers">
      <div className="flex flex-wrap items-center gap-3">
        <h2 className="font-semibold">What stands in their controllers</h2>
        <span className="flex-1" />
        <Button
          kind={answering.length === 0 ? 'go' : 'plain'}
          disabled={!ready || !allowed || busy}
          onClick={() => void procedures.begin('controllers-read', {})}
        >
          {read.length > 0 ? 'Read them again' : 'Read them'}
        </Button>
      </div>
      {busy && <Bar share={newest.progress} className="mt-2 max-w-[360px]" />}
      <p className={`mt-1 ${newest?.state === 'failed' ? 'text-red' : 'text-soft'}`} role="status">
        {newest && newest.state !== 'cancelled'
          ? newest.says
          : 'They answer only where a digital protocol is in use, with the battery in and the propellers off.'}
      </p>
      {read.some((r) => r.seen.state !== 'answers' || r.state !== 'proven') && (
        <ul className="mt-1 text-[13px] text-soft">
          {read
            .filter((r) => r.seen.state !== 'answers' || r.state !== 'proven')
            .map(({ seen, state }) => (
              <li key={seen.output}>
                {nameOf(seen.output)}:{' '}
                {state !== 'proven'
                  ? 'changed since it was read; read it again.'
                  : seen.state === 'loader'
                    ? 'has no whole firmware and turns nothing: bring it to one below.'
                    : seen.state === 'pulses'
                      ? 'driven by pulses, which carry no questions. A timer that sends DShot reaches it, in Wiring.'
                      : 'does not answer: a model that speaks pulses only, or without power.'}
              </li>
            ))}
        </ul>
      )}
      {answering.length > 0 && (
        <>
          <Table className="mt-2 max-w-[760px]">
            <thead>
              <tr>
                <th>Setting</th>
                {answering.map((c) => (
                  <th key={c.output}>
                    {nameOf(c.output)}{' '}
                    <span className="text-faint">
                      {c.product} {c.version}
                    </span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {kolkEntries.map((e) => (
                <tr key={e.key}>
                  <td title={e.meaning}>
                    {e.label}
                    <small className="block text-[12px] text-faint leading-4">{e.meaning}</small>
                  </td>
                  {answering.map((c) => {
                    const draft = draftOf(c)[e.key];
                    const value = draft ?? c.values[e.key];
                    return (
                      <td key={c.output} className={draft === undefined ? '' : 'bg-lake-wash'}>
                        {value === undefined ? (
                          '–'
                        ) : (
                          <OneValue
                            entry={e}
                            name={`${e.label}, ${nameOf(c.output)}`}
                            value={value}
                            onChange={(v) => edit(c, e.key, v)}
                          />
                        )}
                      </td>
                    );
                  })}
                </tr>
              ))}
            </tbody>
          </Table>
          <div className="mt-2 flex flex-wrap items-center gap-2">
            <Button
              kind="go"
              disabled={!ready || !allowed || busy || waiting.length === 0}
              onClick={() => void write(waiting)}
            >
              {waiting.length > 1 ? `Write ${waiting.length}, read back` : 'Write, and read back'}
            </Button>
            {waiting.length > 0 && <Button onClick={() => setDrafts({})}>Leave them as they are</Button>}
            {answering.length > 1 &&
              answering.map((c) => (
                <Button
                  key={c.output}
                  onClick={() =>
                    setDrafts(
                      Object.fromEntries(
                        answering.map((other) => [other.output, likeOf(c, draftOf(c), other)]),
                      ),
                    )
                  }
                >
                  All like the {nameOf(c.output)}
                </Button>
              ))}
          </div>
        </>
      )}
      <ControllerUpdate
        read={read.flatMap(({ seen, state }) =>
          state === 'proven' && (seen.state === 'answers' || seen.state === 'loader') ? [seen] : [],
        )}
        nameOf={nameOf}
        allowed={ready && allowed}
      />
    </section>
  );
}

/** What to tell a controller so that it is as another one is, but for its direction. */
function likeOf(model: Read, draft: Values, other: Read): Values {
  const wanted: Values = { ...model.values, ...draft };
  return Object.fromEntries(
    Object.entries(wanted).filter(
      ([key, v]) =>
        (key !== 'direction' || model === other) && other.values[key] !== v && kolkRefuses(key, v) === null,
    ),
  );
}

function OneValue({
  entry,
  name,
  value,
  onChange,
}: {
  readonly entry: SettingEntry;
  readonly name: string;
  readonly value: SettingValue;
  readonly onChange: (v: SettingValue) => void;
}) {
  const units = useApp((s) => s.ui.units);
  if (entry.type === 'flag')
    return (
      <Check aria-label={name} checked={value === true} onChange={(e) => onChange(e.target.checked)}>
        {value === true ? 'on' : 'off'}
      </Check>
    );
  if (entry.type === 'choice')
    return (
      <Select look="small" aria-label={name} value={String(value)} onChange={(e) => onChange(e.target.value)}>
        {entry.choices?.map((c) => (
          <option key={c.value} value={c.value}>
            {c.label}
          </option>
        ))}
      </Select>
    );
  const { symbol } = displayOf(entry.unit, units);
  return (
    <NumberField
      label={name}
      value={Number(formatNumber(Number(value), 2))}
      symbol={symbol}
      min={entry.min!}
      max={entry.max!}
      step={entry.step ?? 1}
      onChange={onChange}
    />
  );
}
