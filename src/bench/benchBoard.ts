import { boardOf } from '#core/board/boards.ts';
import type { BoardModel } from '#core/board/model.ts';
import { inspectImage } from '#core/formats/firmwareImage.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { crc32 } from '#core/wire/crc32.ts';
import { FlightLog, type KeptLog } from '#firmware/flightLog.ts';
import { ImageRegion } from '#firmware/imageRegion.ts';
import { type PfadVersion, WRITTEN_VERSION } from '#firmware/versions.ts';
import { flashWith } from './flashImage.ts';
import { MemoryFlash } from './memoryFlash.ts';
import { releaseImage } from './releaseImages.ts';

/** A board as it lies on the shelf. */
export interface ShelfBoard {
  readonly serial: string;
  readonly target: string;
  /** Where it comes from. */
  readonly story: string;
  /** What runs on it when it is taken out for the first time; null for nothing. */
  readonly firmware: PfadVersion | null;
}

/** What is said of the board that a craft's own settings are on. */
export const OWN = 'this craft’s own';

/** The board of each make that a craft may call its own. */
const owned: Readonly<Record<string, string>> = {
  'fell-f7': 'FF7-0419-22',
  'cobble-f4-wing': 'CF4-0047-02',
  'massif-h7-a': 'MH7-0131-09',
  'massif-h7-b': 'MH7-0219-04',
};

const others: readonly ShelfBoard[] = [
  { serial: 'FF7-0107-15', target: 'fell-f7', story: 'second-hand', firmware: '2.8' },
  { serial: 'CF4-0033-08', target: 'cobble-f4-wing', story: 'new, empty', firmware: null },
  { serial: 'MH7-0212-31', target: 'massif-h7-b', story: 'from another craft', firmware: '3.0' },
];

/** The serial number of a craft's own board: that of the scenario for its craft, one of its own for every other. */
function serialOf(make: string, craft: string | null): string {
  const usual = owned[make]!;
  if (craft === null) return usual;
  const n = crc32(new TextEncoder().encode(`${make} ${craft}`));
  const digits = (value: number, many: number) => String(value % 10 ** many).padStart(many, '0');
  return `${usual.slice(0, usual.indexOf('-'))}-${digits(n, 4)}-${digits(n >>> 16, 2)}`;
}

/**
 * Boards at hand for a craft that is for a make; the first is its own. A make that nobody has is a Fell F7 here.
 * @param craft tells one craft's own board from that of another; null for the scenario's
 */
export function shelfFor(target: string, craft: string | null = null): readonly ShelfBoard[] {
  const make = owned[target] ? target : 'fell-f7';
  return [{ serial: serialOf(make, craft), target: make, story: OWN, firmware: WRITTEN_VERSION }, ...others];
}

/** What of a board outlives its power: to be kept, and brought back. */
export interface KeptBoard {
  readonly pages: readonly [Uint8Array, Uint8Array];
  /** Of route and fences; left out by what was kept before there were any. */
  readonly planPages?: readonly [Uint8Array, Uint8Array] | undefined;
  readonly image: {
    readonly bytes: Uint8Array;
    readonly plan: ImageRegion['plan'];
    readonly whole: Uint8Array<ArrayBuffer>;
    readonly toErase: number;
    readonly verified: boolean;
  };
  /** Flights on its store; left out by what was kept before they were. */
  readonly log?: KeptLog | undefined;
}

/** One board with its memories, whatever craft it is put into. */
export class BenchBoard {
  /** The chip or card it logs to keeps flights when the power goes. */
  readonly log = new FlightLog();

  constructor(
    readonly model: BoardModel,
    readonly serial: string,
    readonly flash: MemoryFlash,
    readonly image: ImageRegion,
    /** Route and fences lie apart from the settings. */
    readonly planFlash: MemoryFlash = new MemoryFlash(),
  ) {}

  /** As it is taken off the shelf for the first time. @param values settings on it, where it has a firmware */
  static fresh(from: ShelfBoard, values: Values): BenchBoard {
    const model = boardOf(from.target)!;
    if (from.firmware === null)
      return new BenchBoard(model, from.serial, new MemoryFlash(), new ImageRegion(model.flashBytes));
    const made = inspectImage(new TextEncoder().encode(releaseImage(from.target, from.firmware, 4096)));
    if (!made.ok) throw new Error(made.why);
    const image = ImageRegion.holding(model.flashBytes, made.bytes, made.info);
    return new BenchBoard(model, from.serial, flashWith(values, from.firmware), image);
  }

  /** As it was kept. */
  static kept(from: ShelfBoard, { pages, planPages, image, log }: KeptBoard): BenchBoard {
    const model = boardOf(from.target)!;
    const region = new ImageRegion(model.flashBytes);
    region.bytes.set(image.bytes.subarray(0, model.flashBytes));
    region.plan = image.plan;
    region.whole = image.whole;
    region.toErase = image.toErase;
    region.verified = image.verified;
    const [flash, planFlash] = [new MemoryFlash(pages), new MemoryFlash(planPages)];
    const board = new BenchBoard(model, from.serial, flash, region, planFlash);
    if (log) board.log.bring(log);
    return board;
  }

  keep(): KeptBoard {
    const { bytes, plan, whole, toErase, verified } = this.image;
    const image = { bytes, plan, whole, toErase, verified };
    return { pages: this.flash.pages, planPages: this.planFlash.pages, image, log: this.log.keep() };
  }

  /** Counts up with every change of what is kept. */
  get changes(): number {
    return this.flash.changes + this.planFlash.changes + this.image.changes + this.log.ended;
  }
}
