import { type Heard, type Told, ToldReader } from './frames.ts';
import { type ToldId, toldIds } from './sensors.ts';

/** What a transmitter shows of a craft: the last that came of each kind, and how long ago. It keeps all of it when the link is lost. */
export class ToldScreen {
  /** Of the kinds that were discovered. */
  readonly values = new Map<ToldId, { readonly heard: Heard; readonly atS: number }>();
  private nowS = 0;
  private readonly reader = new ToldReader((heard) => {
    this.values.set(heard.id, { heard, atS: this.nowS });
  });

  /** @param atS of the transmitter's own clock */
  receive(bytes: Uint8Array, atS: number): void {
    this.nowS = atS;
    for (const byte of bytes) this.reader.push(byte);
  }

  get faults(): number {
    return this.reader.faults;
  }

  /** What it shows, in the order of the kinds. */
  shown(atS: number): readonly ShownSensor[] {
    return toldIds.flatMap((id) => {
      const v = this.values.get(id);
      return v ? [{ id, told: v.heard, ageS: Math.max(0, atS - v.atS) }] : [];
    });
  }
}

export interface ShownSensor {
  readonly id: ToldId;
  readonly told: Partial<Told>;
  readonly ageS: number;
}
