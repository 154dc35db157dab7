/** What a board knows that its overlay may tell. SI and radians; NaN where it does not know. */
export interface OverlayView {
  /** Since power-on, s. */
  atS: number;
  armed: boolean;
  /** Name of the mode that is flown. */
  mode: string;
  /** What the board has to say now: what blocks, what is lost, what it last decided. */
  message: string;
  homeSet: boolean;
  /** m */
  homeDistance: number;
  /** To home, from north. */
  homeBearing: number;
  /** Where the nose points; NaN while nobody knows. */
  heading: number;
  latitude: number;
  longitude: number;
  /** Over the ground since it left it, m. */
  travelled: number;
  supplyV: number;
  cells: number;
  currentA: number;
  usedMah: number;
  leftMah: number;
  needMah: number;
  /** At the current of the last half minute in the air, s; NaN before it flew. */
  leftS: number;
  speed: number;
  airspeed: number;
  /** Above home, m. */
  height: number;
  aboveGround: number;
  climb: number;
  roll: number;
  pitch: number;
  /** 0..1 */
  throttle: number;
  windSpeed: number;
  /** Where it comes from, from north. */
  windFrom: number;
  /** 0..1 */
  quality: number;
  /** Since the last frame of the receiver, s. */
  silentS: number;
  satellites: number;
  /** Of the place, one sigma, m. */
  accuracy: number;
  /** In the air since take-off, s. */
  flownS: number;
  /** What the first dial gives, times what is written. */
  dial: number;
}

/** A board that has just started, indoors. */
export const newView = (): OverlayView => ({
  atS: 0,
  armed: false,
  mode: '',
  message: '',
  homeSet: false,
  homeDistance: Number.NaN,
  homeBearing: Number.NaN,
  heading: Number.NaN,
  latitude: Number.NaN,
  longitude: Number.NaN,
  travelled: 0,
  supplyV: 0,
  cells: 1,
  currentA: 0,
  usedMah: 0,
  leftMah: Number.NaN,
  needMah: Number.NaN,
  leftS: Number.NaN,
  speed: 0,
  airspeed: Number.NaN,
  height: 0,
  aboveGround: Number.NaN,
  climb: 0,
  roll: 0,
  pitch: 0,
  throttle: 0,
  windSpeed: Number.NaN,
  windFrom: Number.NaN,
  quality: 0,
  silentS: 0,
  satellites: 0,
  accuracy: Number.NaN,
  flownS: 0,
  dial: 1,
});

type Name = keyof OverlayView;
const names = Object.keys(newView()) as readonly Name[];
const texts = ['mode', 'message'] as const satisfies readonly Name[];
type TextName = (typeof texts)[number];
const isText = (name: Name): name is TextName => (texts as readonly Name[]).includes(name);

/** Views of a whole flight, one row of numbers each; texts by where they stand in `said`. */
export interface PackedViews {
  readonly rows: Float64Array;
  readonly said: readonly string[];
  readonly count: number;
}

/** Numbers of one pose beside a view: s since the launch, m north and east of home, m above the sea, then roll, pitch, yaw, rad. */
export const POSE_NUMBERS = 7;

/** Gathers views, and gives them packed. */
export class ViewTape {
  private readonly numbers: number[] = [];
  private readonly said = new Map<string, number>();

  add(view: OverlayView): void {
    for (const name of names) {
      const value = view[name];
      if (typeof value !== 'string') {
        this.numbers.push(Number(value));
        continue;
      }
      const known = this.said.get(value) ?? this.said.size;
      this.said.set(value, known);
      this.numbers.push(known);
    }
  }

  packed(): PackedViews {
    return {
      rows: Float64Array.from(this.numbers),
      said: [...this.said.keys()],
      count: this.numbers.length / names.length,
    };
  }
}

/** One view of a tape. @throws RangeError beyond its ends */
export function viewAt(tape: PackedViews, index: number): OverlayView {
  if (index < 0 || index >= tape.count) throw new RangeError(`no view ${index}`);
  const from = index * names.length;
  const view: Record<string, number | boolean | string> = {};
  names.forEach((name, i) => {
    const value = tape.rows[from + i]!;
    view[name] = isText(name)
      ? tape.said[value]!
      : name === 'armed' || name === 'homeSet'
        ? value !== 0
        : value;
  });
  return view as unknown as OverlayView;
}

/** The last view of a tape that was taken by a time, by halving. */
export function indexAt(tape: PackedViews, atS: number): number {
  let [low, high] = [0, tape.count - 1];
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    if (tape.rows[middle * names.length]! <= atS) low = middle;
    else high = middle - 1;
  }
  return Math.max(0, low);
}
