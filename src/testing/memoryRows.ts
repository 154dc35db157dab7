import type { Part, RowChange, Rows } from '../app/store/database.ts';

/** For tests: a browser's store in memory, which refuses everything when told to. */
export class MemoryRows implements Rows {
  refuses = false;
  private readonly parts = new Map<Part, Map<string, unknown>>();

  private part(name: Part): Map<string, unknown> {
    if (this.refuses) throw new Error('The disk is full.');
    const part = this.parts.get(name) ?? new Map<string, unknown>();
    this.parts.set(name, part);
    return part;
  }

  async get(from: Part, key: string): Promise<unknown> {
    return this.part(from).get(key);
  }

  async all(from: Part): Promise<readonly unknown[]> {
    return [...this.part(from).values()];
  }

  async keys(from: Part): Promise<readonly string[]> {
    return [...this.part(from).keys()];
  }

  async write(changes: readonly RowChange[]): Promise<void> {
    for (const c of changes) {
      const part = this.part(c.in);
      if ('delete' in c) part.delete(c.delete);
      else part.set(c.key ?? (c.put as { id: string }).id, structuredClone(c.put));
    }
  }
}
