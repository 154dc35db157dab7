import { useState } from 'react';
import { actuatorNames } from '#core/airframe/actuators.ts';
import type { Surface } from '#core/airframe/airframe.ts';
import { USUAL_SPEED } from '#core/flight/servo.ts';
import { DEG } from '#core/math/scalar.ts';
import { outputDriving } from '#core/mixer/commanded.ts';
import {
  angleAt,
  chordMmOf,
  describedThrow,
  halfTurnsFor,
  playOf,
  SAME_US,
  servoTravel,
  throwFrom,
  throwsSeen,
} from '#core/mixer/throws.ts';
import { stateOf } from '#core/proofs/proofs.ts';
import { settingOf, settingsOf } from '#core/settings/typed.ts';
import { formatNumber } from '#core/units/units.ts';
import type { BenchTarget } from '#core/wire/messages.ts';
import { useSampled } from '../../live/hooks.ts';
import { live } from '../../live/telemetry.ts';
import { recordProof } from '../../session.ts';
import { proofsDropped } from '../../store/craftSlice.ts';
import { selectDescription, selectProofWorld, selectValues } from '../../store/selectors.ts';
import { useApp, useAppDispatch } from '../../store/store.ts';
import { Button } from '../../ui/Button.tsx';
import { Check } from '../../ui/Check.tsx';
import { Notice } from '../../ui/Notice.tsx';
import { RadioCards } from '../../ui/RadioCards.tsx';
import { TextButton } from '../../ui/TextButton.tsx';
import { Lead } from '../Lead.tsx';
import { HoldBar } from './HoldBar.tsx';
import { SetThrow, usePut } from './SetThrow.tsx';
import { ThrowDrawing } from './ThrowDrawing.tsx';
import { Angle, LOOK_MS, Play, Read, useStood } from './ThrowReadings.tsx';

/** Surfaces beside their servos: measured with a ruler, set in degrees. */
export default function ThrowsStation() {
  const airframe = useApp((s) => s.craft.airframe)!;
  const world = useApp(selectProofWorld)!;
  const proofs = useApp((s) => s.craft.proofs);
  const [id, setId] = useState(airframe.surfaces[0]?.id);
  const surface = airframe.surfaces.find((s) => s.id === id) ?? airframe.surfaces[0];
  const seen = throwsSeen(proofs, world);
  if (!surface)
    return (
      <>
        <Lead begins={false} />
        <p className="mt-3 text-soft">This craft steers by its motors alone: it has no surface to measure.</p>
      </>
    );
  return (
    <>
      <Lead />
      <RadioCards
        label="Surface"
        className="mt-3 flex flex-wrap gap-1.5"
        value={surface.id}
        cards={airframe.surfaces.map((s) => ({
          id: s.id,
          name: `${actuatorNames[s.id]}${seen.has(s.id) ? ' ✓' : ''}`,
        }))}
        onChange={setId}
      />
      <OneThrow key={surface.id} surface={surface} />
    </>
  );
}

/** So far off the others a reading is doubted, deg. */
const DOUBT_DEG = 2.5;

const targets: readonly { readonly id: BenchTarget; readonly name: string }[] = [
  { id: 'middle', name: 'servo’s middle' },
  { id: 'low', name: 'short-pulse end' },
  { id: 'high', name: 'long-pulse end' },
  { id: 'centre', name: 'trimmed centre' },
  { id: 'sweep', name: 'to and fro' },
  { id: 'middle-from-low', name: 'middle, come from shorter pulses' },
  { id: 'middle-from-high', name: 'middle, come from longer pulses' },
];

function OneThrow({ surface }: { readonly surface: Surface }) {
  const airframe = useApp((s) => s.craft.airframe)!;
  const values = useApp(selectValues);
  const units = useApp((s) => s.ui.units);
  const proofs = useApp((s) => s.craft.proofs);
  const world = useApp(selectProofWorld)!;
  const dispatch = useAppDispatch();
  const [to, setTo] = useState<BenchTarget>('middle');
  const [pulses, setPulses] = useState(false);
  const s = settingsOf(values);
  const output = outputDriving(values, surface.id);
  const chordMm = chordMmOf(airframe, surface);
  const nowUs = useSampled(
    () => (output === null ? null : live('outputs')?.pulses[output - 1] || null),
    LOOK_MS,
  );
  const stood = useStood(output ?? 0, nowUs);
  const proof = proofs.find((p) => p.id === `throw.${surface.id}`);
  const readings =
    proof?.seen.kind === 'throw' && stateOf(proof, world) === 'proven' ? proof.seen.readings : [];
  const fit = readings.length >= 2 ? throwFrom(surface, readings) : null;
  const refused = fit && 'refused' in fit ? fit.refused : null;
  const measured = fit && !('refused' in fit) ? fit : null;
  const t = measured ?? describedThrow(surface, output !== null && s.flag(`out.${output}.reversed`));
  const play = playOf(readings);
  const timer = useApp(selectDescription)?.pads.find((p) => p.output === output)?.timer;
  const rate = timer === undefined ? undefined : settingOf(values, `timer.${timer}.rate`);
  const [put, fault] = usePut(surface, output ?? 1, measured);
  const doubtful = measured
    ? readings.find((r) => Math.abs(angleAt(measured, r.us) - r.angle) > DOUBT_DEG * DEG)
    : undefined;
  if (output === null)
    return (
      <Notice tone="amber" className="mt-3 max-w-[660px]">
        No output drives the {actuatorNames[surface.id]} yet. Find out which moves it first.
      </Notice>
    );
  const take = (angle: number) => {
    if (stood === null) return;
    const { us, from } = stood;
    // Read again from the same side, it takes the other's place.
    const others = readings
      .filter((r) => Math.abs(r.us - us) > SAME_US || (r.from ?? from) !== from)
      .slice(-5);
    recordProof({
      kind: 'throw',
      surface: surface.id,
      output,
      readings: [...others, { us, angle, ...(from ? { from } : {}) }],
    });
  };
  const [low, centre, high] = [
    s.number(`out.${output}.low`),
    s.number(`out.${output}.centre`),
    s.number(`out.${output}.high`),
  ];
  return (
    <>
      <div className="mt-2">
        <ThrowDrawing
          surface={surface}
          throwOf={t}
          chordMm={chordMm}
          lowUs={low}
          centreUs={centre}
          highUs={high}
          nowUs={nowUs}
          measured={measured !== null}
          pulses={pulses}
          units={units}
          onEnd={measured ? put : undefined}
        />
      </div>
      <p className="flex flex-wrap items-baseline gap-x-4 text-[13px] text-soft">
        <span>
          {measured
            ? `Measured by ${readings.length} readings.`
            : proof && readings.length === 0
              ? 'Something it rests on was changed since it was measured: read it anew.'
              : 'As the craft is described: not measured yet. Read where its trailing edge stands near both ends.'}
        </span>
        <span>{servoWords(surface, rate)}</span>
        <Check checked={pulses} onChange={(e) => setPulses(e.target.checked)}>
          pulses too
        </Check>
      </p>
      <RadioCards
        label="Bring it to"
        className="mt-2 flex flex-wrap gap-1.5"
        value={to}
        cards={targets}
        onChange={setTo}
      />
      <HoldBar
        output={output}
        to={to}
        label={`Hold to bring it to ${to === 'sweep' ? 'its ends, to and fro' : `its ${targets.find((x) => x.id === to)!.name}`}`}
      />
      <Read surface={surface} chordMm={chordMm} stood={stood} onTake={take} />
      {refused && (
        <Notice
          className="mt-2 max-w-[760px]"
          action={<Button onClick={() => dispatch(proofsDropped([proof!.id]))}>Forget these readings</Button>}
        >
          {refused}
        </Notice>
      )}
      {doubtful && (
        <Notice tone="amber" className="mt-2 max-w-[760px]">
          The reading at {Math.round(doubtful.us)} µs does not fit the others within {DOUBT_DEG}°. Read it
          again, or see whether arm and horn are as long as the craft’s description says.
        </Notice>
      )}
      {readings.length > 0 && (
        <ul aria-label="Readings" className="mt-2 flex flex-wrap gap-x-5 gap-y-1 text-[13px]">
          {[...readings]
            .sort((a, b) => a.us - b.us)
            .map((r) => (
              <li key={r.us}>
                <span className="num">{Math.round(r.us)} µs</span>
                {play !== null && r.from && ` from ${r.from === 'below' ? 'shorter' : 'longer'} pulses`}:{' '}
                <Angle surface={surface} angle={r.angle} chordMm={chordMm} />
              </li>
            ))}
          <li>
            <TextButton onClick={() => dispatch(proofsDropped([proof!.id]))}>Measure anew</TextButton>
          </li>
        </ul>
      )}
      {measured && <Play surface={surface} readings={readings} chordMm={chordMm} />}
      {fault && <Notice className="mt-2 max-w-[760px]">{fault}</Notice>}
      {measured && (
        <SetThrow
          surface={surface}
          output={output}
          chordMm={chordMm}
          halfTurns={halfTurnsFor(measured)}
          put={put}
        />
      )}
    </>
  );
}

/** The servo as the craft is described, and how often it gets a pulse. */
function servoWords(surface: Surface, rate: string | undefined): string {
  const speed = surface.linkage?.servoSpeedDegPerS ?? USUAL_SPEED / DEG;
  const fast = Number(rate) > 100 ? ', which only a digital one stands' : '';
  return `Servo: 60° in ${formatNumber(60 / speed, 2)} s, ${formatNumber(servoTravel(surface) / DEG, 0)}° to either side${rate ? `, ${rate} pulses a second${fast}` : ''}.`;
}
