import * as z from 'zod';
import { parsed } from '#core/parsed.ts';
import type { Rows } from '../store/database.ts';

/** Logs of a craft's flights in the browser's store: what each is, and apart from that its bytes. */

const keptLogSchema = z.object({
  /** Begins with the id of its craft. */
  id: z.string().min(1).max(200),
  serial: z.string().max(40),
  /** Its number on the board, or 0 for one that came from a file. */
  flight: z.number().int().min(0),
  /** Since the board was switched on, s. */
  startedS: z.number(),
  /** Of a file: its name; else empty. */
  file: z.string().max(120),
  total: z.number().int().min(0),
  /** So much of it is here, from its beginning on. */
  upTo: z.number().int().min(0),
  /** The board ended it; else it was cut off, as when the battery goes. */
  whole: z.boolean(),
  /** RFC 3339 */
  readAt: z.string().max(40),
});
export type KeptLog = Readonly<z.infer<typeof keptLogSchema>>;

/** The same flight has the same id whenever it is read. */
export const logId = (craft: string, serial: string, flight: number, startedS: number): string =>
  `${craft}/${serial}/${flight}-${Math.round(10 * startedS)}`;

export const fileLogId = (craft: string, name: string, readAt: string): string =>
  `${craft}/file/${readAt} ${name}`;

export class LogShelf {
  constructor(private readonly rows: Rows) {}

  /** Those of a craft, the newest first; what cannot be read is left out. @throws StoreFault */
  async list(craft: string): Promise<readonly KeptLog[]> {
    const all = await this.rows.all('logs');
    return all
      .flatMap((raw) => parsed(keptLogSchema, raw).data ?? [])
      .filter((log) => log.id.startsWith(`${craft}/`))
      .sort((a, b) => (a.readAt < b.readAt ? 1 : a.readAt > b.readAt ? -1 : b.flight - a.flight));
  }

  /** The bytes of one as far as they are here; null where there are none. @throws StoreFault */
  async bytes(id: string): Promise<Uint8Array | null> {
    const raw = await this.rows.get('logBytes', id);
    return raw instanceof Uint8Array ? raw : null;
  }

  /** @throws StoreFault; then what was kept before stands */
  put(log: KeptLog, bytes: Uint8Array): Promise<void> {
    return this.rows.write([
      { in: 'logs', put: log },
      { in: 'logBytes', put: bytes.slice(0, log.upTo), key: log.id },
    ]);
  }

  /** @throws StoreFault */
  drop(id: string): Promise<void> {
    return this.rows.write([
      { in: 'logs', delete: id },
      { in: 'logBytes', delete: id },
    ]);
  }
}
