import { parsed } from '#core/parsed.ts';
import { type Airframe, airframeSchema, isRotorcraft, type Motor, wingOf } from './airframe.ts';
import { weightsOf, withWeights } from './weights.ts';

/** What a person knows of a craft before it is measured part by part. */
export interface CraftSize {
  readonly name: string;
  /** The span; of rotors, from one motor to the one opposite, m. */
  readonly acrossM: number;
  readonly massKg: number;
  readonly propDiameterM: number;
  readonly kvRpmPerV: number;
  readonly cells: number;
  readonly capacityMah: number;
}

/** How far rotors stand from the middle, m. */
const armOf = (a: Airframe) => Math.max(...a.motors.map((m) => Math.hypot(m.aftM - a.cgAftM, m.rightM)));

/** Across, as `CraftSize` has it. @returns m */
export function acrossOf(airframe: Airframe): number {
  if (!isRotorcraft(airframe)) return wingOf(airframe).spanM;
  return 2 * armOf(airframe);
}

export function sizeOf(a: Airframe): CraftSize {
  const m = a.motors[0]!;
  return {
    name: a.name,
    acrossM: acrossOf(a),
    massKg: a.massKg,
    propDiameterM: m.propDiameterM,
    kvRpmPerV: m.kvRpmPerV,
    cells: a.battery.cells,
    capacityMah: a.battery.capacityMah,
  };
}

/**
 * A craft of the shape of another and of other size, to be measured further: lengths go with the size across, drag area
 * with its square. Currents go with the mass over the voltage; resistances of windings with voltage over current, those
 * of cells against capacity (cells in parallel).
 * @throws Error with a sentence where the outcome is no craft, such as one of 20 m
 */
export function scaledTo(like: Airframe, size: CraftSize): Airframe {
  const k = size.acrossM / acrossOf(like);
  const volts = size.cells / like.battery.cells;
  const amps = size.massKg / like.massKg / volts;
  const prop = size.propDiameterM / like.motors[0]!.propDiameterM;
  const motor = (m: Motor): Motor => ({
    ...m,
    aftM: m.aftM * k,
    rightM: m.rightM * k,
    upM: m.upM * k,
    propDiameterM: m.propDiameterM * prop,
    propPitchM: m.propPitchM * prop,
    kvRpmPerV: size.kvRpmPerV,
    resistanceOhm: clamp((m.resistanceOhm * volts) / amps, 0.001, 5),
    idleCurrentA: clamp(m.idleCurrentA * amps, 0, 20),
    maxCurrentA: clamp(m.maxCurrentA * amps, 1, 400),
  });
  const scaled: Airframe = {
    ...like,
    name: size.name,
    massKg: size.massKg,
    cgAftM: like.cgAftM * k,
    lengthM: like.lengthM * k,
    bodyWidthM: like.bodyWidthM * k,
    bodyHeightM: like.bodyHeightM * k,
    bodyDragM2: like.bodyDragM2 * k * k,
    planforms: like.planforms.map((p) => ({
      ...p,
      spanM: p.spanM * k,
      rootChordM: p.rootChordM * k,
      tipChordM: p.tipChordM * k,
      rootAftM: p.rootAftM * k,
      tipAftM: p.tipAftM * k,
      rootRightM: p.rootRightM * k,
      upM: p.upM * k,
    })),
    motors: like.motors.map(motor),
    battery: {
      ...like.battery,
      cells: size.cells,
      capacityMah: size.capacityMah,
      cellResistanceOhm: clamp(
        (like.battery.cellResistanceOhm * like.battery.capacityMah) / size.capacityMah,
        0.0002,
        0.2,
      ),
    },
  };
  const weighed = like.weights
    ? withWeights(
        scaled,
        weightsOf(like).map((w) => ({
          ...w,
          massKg: (w.massKg * size.massKg) / like.massKg,
          aftM: w.aftM * k,
          rightM: w.rightM * k,
          upM: w.upM * k,
        })),
      )
    : scaled;
  const checked = parsed(airframeSchema, weighed);
  if (!checked.success) {
    const { path, message } = checked.error.issues[0]!;
    throw new Error(`At that size ${path.join(' ')} is not that of a craft: ${message}.`);
  }
  return checked.data;
}

const clamp = (v: number, least: number, most: number) => Math.min(most, Math.max(least, v));
