import {
  type ActuatorId,
  type Airframe,
  actuatorNames,
  type Motor,
  type Planform,
  type PlanformId,
  type Surface,
} from '#core/airframe/airframe.ts';
import type { UnitId } from '#core/units/units.ts';
import { QuantityField } from '../../ui/Quantity.tsx';

export type PartId = ActuatorId | PlanformId | 'battery' | 'body';

/** The parts a person can pick, in the order they are looked at. */
export function partsOf(airframe: Airframe): { id: PartId; name: string }[] {
  return [
    ...airframe.planforms.map((p) => ({ id: p.id, name: p.pair && p.id === 'fin' ? 'fins' : p.id })),
    ...airframe.surfaces.map((s) => ({ id: s.id, name: actuatorNames[s.id] })),
    ...airframe.motors.map((m) => ({ id: m.id, name: actuatorNames[m.id] })),
    { id: 'battery' as const, name: 'battery' },
    { id: 'body' as const, name: 'body' },
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
    </section>
  );
}

type Range = readonly [min: number, max: number, step: number];

function Row({
  name,
  unit,
  value,
  range,
  onChange,
}: {
  readonly name: string;
  readonly unit: UnitId;
  readonly value: number;
  readonly range: Range;
  readonly onChange: (v: number) => void;
}) {
  return (
    <div className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
      <span className="text-soft">{name}</span>
      <QuantityField
        label={name}
        unit={unit}
        value={value}
        min={range[0]}
        max={range[1]}
        step={range[2]}
        onChange={onChange}
      />
    </div>
  );
}

const MM: Range = [5, 4000, 1];
const PLACE: Range = [-2000, 4000, 1];

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
  const mm = (name: string, key: keyof Planform, range: Range = MM) => (
    <Row
      name={name}
      unit="mm"
      value={(p[key] as number) * 1000}
      range={range}
      onChange={(v) => put({ [key]: v / 1000 })}
    />
  );
  const deg = (name: string, key: keyof Planform, range: Range) => (
    <Row name={name} unit="deg" value={p[key] as number} range={range} onChange={(v) => put({ [key]: v })} />
  );
  return (
    <>
      {mm(p.pair ? 'span, both halves' : 'height', 'spanM')}
      {mm('root chord', 'rootChordM')}
      {mm('tip chord', 'tipChordM')}
      {mm('root behind nose', 'rootAftM', [0, 4000, 1])}
      {mm('tip behind nose', 'tipAftM', [0, 4000, 1])}
      {p.pair && p.id === 'fin' && mm('out from the middle', 'rootRightM', [0, 2000, 1])}
      {mm('above the wing', 'upM', [-500, 500, 1])}
      {p.pair && deg('dihedral', 'dihedralDeg', [-30, 90, 0.5])}
      {p.pair && p.id !== 'fin' && deg('incidence', 'incidenceDeg', [-15, 15, 0.1])}
      {p.id === 'wing' && deg('washout', 'washoutDeg', [-10, 10, 0.1])}
      {p.id === 'wing' && deg('zero lift at', 'zeroLiftDeg', [-8, 4, 0.1])}
      {p.id === 'wing' && (
        <Row
          name="section moment"
          unit="count"
          value={p.sectionMoment}
          range={[-0.2, 0.2, 0.005]}
          onChange={(v) => put({ sectionMoment: v })}
        />
      )}
      <Row
        name="greatest lift coefficient"
        unit="count"
        value={p.liftMax}
        range={[0.3, 3, 0.05]}
        onChange={(v) => put({ liftMax: v })}
      />
    </>
  );
}

function MotorFields({ airframe, motor: m, onChange }: Omit<Props, 'part'> & { readonly motor: Motor }) {
  // Propeller and motor are the same on all; a place is each one's own.
  const all = (change: Partial<Motor>) =>
    onChange({ ...airframe, motors: airframe.motors.map((x) => ({ ...x, ...change })) });
  const one = (change: Partial<Motor>) =>
    onChange({ ...airframe, motors: airframe.motors.map((x) => (x.id === m.id ? { ...x, ...change } : x)) });
  const many = airframe.motors.length > 1;
  return (
    <>
      <Row
        name="behind nose"
        unit="mm"
        value={m.aftM * 1000}
        range={PLACE}
        onChange={(v) => one({ aftM: v / 1000 })}
      />
      <Row
        name="right of middle"
        unit="mm"
        value={m.rightM * 1000}
        range={PLACE}
        onChange={(v) => one({ rightM: v / 1000 })}
      />
      <div className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
        <span className="text-soft">turns</span>
        <button
          type="button"
          className="rounded-[3px] px-1 underline decoration-dotted hover:bg-lake-wash"
          onClick={() => one({ spin: m.spin === 'clockwise' ? 'anticlockwise' : 'clockwise' })}
        >
          {m.spin}
        </button>
      </div>
      {many && <p className="mt-2 text-faint">the same on all motors</p>}
      <Row
        name="propeller"
        unit="mm"
        value={m.propDiameterM * 1000}
        range={[20, 2000, 1]}
        onChange={(v) => all({ propDiameterM: v / 1000 })}
      />
      <Row
        name="pitch"
        unit="mm"
        value={m.propPitchM * 1000}
        range={[10, 2000, 1]}
        onChange={(v) => all({ propPitchM: v / 1000 })}
      />
      <Row
        name="rpm per volt"
        unit="count"
        value={m.kvRpmPerV}
        range={[50, 10000, 10]}
        onChange={(v) => all({ kvRpmPerV: v })}
      />
      <Row
        name="resistance, milliohm"
        unit="count"
        value={m.resistanceOhm * 1000}
        range={[1, 5000, 1]}
        onChange={(v) => all({ resistanceOhm: v / 1000 })}
      />
      <Row
        name="greatest current"
        unit="a"
        value={m.maxCurrentA}
        range={[1, 400, 1]}
        onChange={(v) => all({ maxCurrentA: v })}
      />
    </>
  );
}

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
  const percent = (name: string, key: 'from' | 'to' | 'chordShare', range: Range) => (
    <Row
      name={name}
      unit="percent"
      value={s[key] * 100}
      range={range}
      onChange={(v) => put({ [key]: v / 100 })}
    />
  );
  return (
    <>
      {s.on !== 'motor' && percent('begins at, of the half', 'from', [0, 95, 1])}
      {s.on !== 'motor' && percent('ends at', 'to', [5, 100, 1])}
      {s.on !== 'motor' && percent('share of the chord', 'chordShare', [5, 90, 1])}
      <Row
        name="throw to each side"
        unit="deg"
        value={s.throwDeg}
        range={[1, 60, 1]}
        onChange={(throwDeg) => put({ throwDeg })}
      />
      {twin !== s.id && <p className="mt-1 text-faint">the same on both sides</p>}
    </>
  );
}

function BatteryFields({ airframe, onChange }: Omit<Props, 'part'>) {
  const b = airframe.battery;
  const put = (change: Partial<Airframe['battery']>) =>
    onChange({ ...airframe, battery: { ...b, ...change } });
  return (
    <>
      <div className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
        <span className="text-soft">cells are</span>
        <button
          type="button"
          className="rounded-[3px] px-1 underline decoration-dotted hover:bg-lake-wash"
          onClick={() => put({ chemistry: b.chemistry === 'lipo' ? 'li-ion' : 'lipo' })}
        >
          {b.chemistry === 'lipo' ? 'LiPo' : 'Li-ion'}
        </button>
      </div>
      <Row
        name="in series"
        unit="count"
        value={b.cells}
        range={[1, 14, 1]}
        onChange={(v) => put({ cells: Math.round(v) })}
      />
      <Row
        name="capacity"
        unit="mah"
        value={b.capacityMah}
        range={[50, 100000, 50]}
        onChange={(capacityMah) => put({ capacityMah })}
      />
      <Row
        name="milliohm a cell"
        unit="count"
        value={b.cellResistanceOhm * 1000}
        range={[0.2, 200, 0.1]}
        onChange={(v) => put({ cellResistanceOhm: v / 1000 })}
      />
    </>
  );
}

const launches = ['hand', 'wheels', 'hover'] as const;
const launchWords = { hand: 'thrown by hand', wheels: 'rolls on wheels', hover: 'lifts off' } as const;

function BodyFields({ airframe, onChange }: Omit<Props, 'part'>) {
  const mm = (name: string, key: 'lengthM' | 'bodyWidthM' | 'bodyHeightM') => (
    <Row
      name={name}
      unit="mm"
      value={airframe[key] * 1000}
      range={[10, 5000, 1]}
      onChange={(v) => onChange({ ...airframe, [key]: v / 1000 })}
    />
  );
  const hovers = airframe.launch === 'hover';
  return (
    <>
      {mm('length', 'lengthM')}
      {mm('width', 'bodyWidthM')}
      {mm('height', 'bodyHeightM')}
      <Row
        name="drag area, cm²"
        unit="count"
        value={airframe.bodyDragM2 * 1e4}
        range={[0, 10000, 0.5]}
        onChange={(v) => onChange({ ...airframe, bodyDragM2: v / 1e4 })}
      />
      <div className="flex items-baseline justify-between gap-2 border-line border-b py-0.5">
        <span className="text-soft">take-off</span>
        <button
          type="button"
          disabled={hovers}
          className="rounded-[3px] px-1 underline decoration-dotted enabled:hover:bg-lake-wash disabled:no-underline"
          onClick={() =>
            onChange({ ...airframe, launch: launches[(launches.indexOf(airframe.launch) + 1) % 2]! })
          }
        >
          {launchWords[airframe.launch]}
        </button>
      </div>
    </>
  );
}
