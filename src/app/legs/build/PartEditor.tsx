import type * as z from 'zod';
import { type ActuatorId, actuatorNames, type FittingId, fittingIds } from '#core/airframe/actuators.ts';
import {
  type Airframe,
  type Motor,
  type Planform,
  type PlanformId,
  partSchemas,
  type Surface,
} from '#core/airframe/airframe.ts';
import { type LaunchKind, launchWords, wingLaunches } from '#core/airframe/launch.ts';
import { limitsOf } from '#core/formats/limits.ts';
import type { UnitId } from '#core/units/units.ts';
import { Check } from '../../ui/Check.tsx';
import { QuantityField } from '../../ui/Quantity.tsx';
import { TextButton } from '../../ui/TextButton.tsx';

export type PartId = ActuatorId | PlanformId | 'battery' | 'body' | 'carried';

/** The parts a person can pick, in the order they are looked at. */
export function partsOf(airframe: Airframe): { id: PartId; name: string }[] {
  return [
    ...airframe.planforms.map((p) => ({ id: p.id, name: p.pair && p.id === 'fin' ? 'fins' : p.id })),
    ...airframe.surfaces.map((s) => ({ id: s.id, name: actuatorNames[s.id] })),
    ...airframe.motors.map((m) => ({ id: m.id, name: actuatorNames[m.id] })),
    { id: 'battery' as const, name: 'battery' },
    { id: 'body' as const, name: 'body' },
    { id: 'carried' as const, name: 'what it carries' },
  ];
}

interface Props {
  readonly airframe: Airframe;
  readonly part: PartId;
  readonly onChange: (next: Airframe) => void;
}

/** The numbers of one part. */
export function PartEditor({ airframe, part, onChange }: Props) {
  const title = partsOf(airframe).find((p) => p.id === part)?.name ?? part;
  const planform = airframe.planforms.find((p) => p.id === part);
  const motor = airframe.motors.find((m) => m.id === part);
  const surface = airframe.surfaces.find((s) => s.id === part);
  return (
    <section aria-label={`Dimensions of the ${title}`} className="text-[13px]">
      <h2 className="label mb-1">{title}</h2>
      {planform && <PlanformFields airframe={airframe} planform={planform} onChange={onChange} />}
      {motor && <MotorFields airframe={airframe} motor={motor} onChange={onChange} />}
      {surface && <SurfaceFields airframe={airframe} surface={surface} onChange={onChange} />}
      {part === 'battery' && <BatteryFields airframe={airframe} onChange={onChange} />}
      {part === 'body' && <BodyFields airframe={airframe} onChange={onChange} />}
      {part === 'carried' && <CarriedFields airframe={airframe} onChange={onChange} />}
    </section>
  );
}

/** What it carries that an output moves, in the order of their names. */
function CarriedFields({ airframe, onChange }: Omit<Props, 'part'>) {
  const { fittings = [], ...rest } = airframe;
  const put = (id: FittingId, on: boolean) => {
    const next = fittingIds.filter((f) => (f === id ? on : fittings.includes(f)));
    onChange(next.length > 0 ? { ...rest, fittings: next } : rest);
  };
  return (
    <>
      {fittingIds.map((id) => (
        <div key={id} className="border-line border-b py-0.5">
          <Check checked={fittings.includes(id)} onChange={(e) => put(id, e.target.checked)}>
            {actuatorNames[id]}
          </Check>
        </div>
      ))}
      <p className="mt-1 text-faint">Each gets an output in Wiring and follows rows of its own in Mixing.</p>
    </>
  );
}

/** One number of a part: its name, its key, its unit, its step as shown, and what one of the kept unit shows as. */
type Line<Part> = readonly [
  name: string,
  key: keyof Part & string,
  unit: UnitId,
  step: number,
  shown?: number,
];

/** Numbers of a part; what each may be is what its schema takes. */
function Numbers<Part extends object>({
  of,
  by,
  lines,
  onChange,
}: {
  readonly of: Part;
  readonly by: Readonly<Partial<Record<keyof Part & string, z.ZodType>>>;
  readonly lines: readonly Line<Part>[];
  readonly onChange: (change: Partial<Part>) => void;
}) {
  return lines.map(([name, key, unit, step, shown = 1]) => {
    const [min, max] = limitsOf(by[key]!);
    return (
      <div key={key} className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
        <span className="text-soft">{name}</span>
        <QuantityField
          label={name}
          unit={unit}
          value={(of[key] as number) * shown}
          min={min * shown}
          max={max * shown}
          step={step}
          onChange={(v) => onChange({ [key]: v / shown } as Partial<Part>)}
        />
      </div>
    );
  });
}

/** One of few words; a press takes the next. */
function Word({
  name,
  word,
  disabled = false,
  onNext,
}: {
  readonly name: string;
  readonly word: string;
  readonly disabled?: boolean;
  readonly onNext: () => void;
}) {
  return (
    <div className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
      <span className="text-soft">{name}</span>
      <TextButton
        disabled={disabled}
        className="px-1 enabled:hover:bg-lake-wash disabled:no-underline"
        onClick={onNext}
      >
        {word}
      </TextButton>
    </div>
  );
}

const MM = 1000;

function planformLines(p: Planform): Line<Planform>[] {
  const wing = p.id === 'wing';
  const fin = p.id === 'fin';
  const lines: (Line<Planform> | false)[] = [
    [p.pair ? 'span, both halves' : 'height', 'spanM', 'mm', 1, MM],
    ['root chord', 'rootChordM', 'mm', 1, MM],
    ['tip chord', 'tipChordM', 'mm', 1, MM],
    ['root behind nose', 'rootAftM', 'mm', 1, MM],
    ['tip behind nose', 'tipAftM', 'mm', 1, MM],
    p.pair && fin && ['out from the middle', 'rootRightM', 'mm', 1, MM],
    ['above the wing', 'upM', 'mm', 1, MM],
    p.pair && ['dihedral', 'dihedralDeg', 'deg', 0.5],
    p.pair && !fin && ['incidence', 'incidenceDeg', 'deg', 0.1],
    wing && ['washout', 'washoutDeg', 'deg', 0.1],
    wing && ['zero lift at', 'zeroLiftDeg', 'deg', 0.1],
    wing && ['section moment', 'sectionMoment', 'count', 0.005],
    ['greatest lift coefficient', 'liftMax', 'count', 0.05],
  ];
  return lines.filter((line) => line !== false);
}

function PlanformFields({
  airframe,
  planform: p,
  onChange,
}: Omit<Props, 'part'> & { readonly planform: Planform }) {
  const put = (change: Partial<Planform>) =>
    onChange({
      ...airframe,
      planforms: airframe.planforms.map((x) => (x.id === p.id ? { ...x, ...change } : x)),
    });
  return <Numbers of={p} by={partSchemas.planform} lines={planformLines(p)} onChange={put} />;
}

const motorPlace: Line<Motor>[] = [
  ['behind nose', 'aftM', 'mm', 1, MM],
  ['right of middle', 'rightM', 'mm', 1, MM],
];
const drive: Line<Motor>[] = [
  ['propeller', 'propDiameterM', 'mm', 1, MM],
  ['pitch', 'propPitchM', 'mm', 1, MM],
  ['rpm per volt', 'kvRpmPerV', 'count', 10],
  ['resistance, milliohm', 'resistanceOhm', 'count', 1, 1000],
  ['greatest current', 'maxCurrentA', 'a', 1],
];

function MotorFields({ airframe, motor: m, onChange }: Omit<Props, 'part'> & { readonly motor: Motor }) {
  // Propeller and motor are the same on all; a place is each one's own.
  const all = (change: Partial<Motor>) =>
    onChange({ ...airframe, motors: airframe.motors.map((x) => ({ ...x, ...change })) });
  const one = (change: Partial<Motor>) =>
    onChange({ ...airframe, motors: airframe.motors.map((x) => (x.id === m.id ? { ...x, ...change } : x)) });
  return (
    <>
      <Numbers of={m} by={partSchemas.motor} lines={motorPlace} onChange={one} />
      <Word
        name="turns"
        word={m.spin}
        onNext={() => one({ spin: m.spin === 'clockwise' ? 'anticlockwise' : 'clockwise' })}
      />
      {airframe.motors.length > 1 && <p className="mt-2 text-faint">the same on all motors</p>}
      <Numbers of={m} by={partSchemas.motor} lines={drive} onChange={all} />
    </>
  );
}

const onChord: Line<Surface>[] = [
  ['begins at, of the half', 'from', 'percent', 1, 100],
  ['ends at', 'to', 'percent', 1, 100],
  ['share of the chord', 'chordShare', 'percent', 1, 100],
];
const throwLine: Line<Surface>[] = [['throw to each side', 'throwDeg', 'deg', 1]];

function SurfaceFields({
  airframe,
  surface: s,
  onChange,
}: Omit<Props, 'part'> & { readonly surface: Surface }) {
  const twin = s.id.startsWith('left-')
    ? s.id.replace('left-', 'right-')
    : s.id.startsWith('right-')
      ? s.id.replace('right-', 'left-')
      : s.id;
  // Left and right are built alike.
  const put = (change: Partial<Surface>) =>
    onChange({
      ...airframe,
      surfaces: airframe.surfaces.map((x) => (x.id === s.id || x.id === twin ? { ...x, ...change } : x)),
    });
  return (
    <>
      <Numbers
        of={s}
        by={partSchemas.surface}
        lines={s.on === 'motor' ? throwLine : [...onChord, ...throwLine]}
        onChange={put}
      />
      {twin !== s.id && <p className="mt-1 text-faint">the same on both sides</p>}
    </>
  );
}

type Battery = Airframe['battery'];
const batteryLines: Line<Battery>[] = [
  ['in series', 'cells', 'count', 1],
  ['capacity', 'capacityMah', 'mah', 50],
  ['milliohm a cell', 'cellResistanceOhm', 'count', 0.1, 1000],
];

function BatteryFields({ airframe, onChange }: Omit<Props, 'part'>) {
  const b = airframe.battery;
  const put = (change: Partial<Battery>) => {
    const battery = { ...b, ...change };
    onChange({ ...airframe, battery: { ...battery, cells: Math.round(battery.cells) } });
  };
  return (
    <>
      <Word
        name="cells are"
        word={b.chemistry === 'lipo' ? 'LiPo' : 'Li-ion'}
        onNext={() => put({ chemistry: b.chemistry === 'lipo' ? 'li-ion' : 'lipo' })}
      />
      <Numbers of={b} by={partSchemas.battery} lines={batteryLines} onChange={put} />
    </>
  );
}

const bodyLines: Line<Airframe>[] = [
  ['length', 'lengthM', 'mm', 1, MM],
  ['width', 'bodyWidthM', 'mm', 1, MM],
  ['height', 'bodyHeightM', 'mm', 1, MM],
  ['drag area, cm²', 'bodyDragM2', 'count', 0.5, 1e4],
];

function nextLaunch(now: LaunchKind): LaunchKind {
  const at = (wingLaunches as readonly LaunchKind[]).indexOf(now);
  return wingLaunches[(at + 1) % wingLaunches.length]!;
}

function BodyFields({ airframe, onChange }: Omit<Props, 'part'>) {
  return (
    <>
      <Numbers
        of={airframe}
        by={partSchemas.airframe}
        lines={bodyLines}
        onChange={(change) => onChange({ ...airframe, ...change })}
      />
      <Word
        name="take-off"
        word={launchWords[airframe.launch]}
        disabled={airframe.launch === 'hover'}
        onNext={() => onChange({ ...airframe, launch: nextLaunch(airframe.launch) })}
      />
    </>
  );
}
