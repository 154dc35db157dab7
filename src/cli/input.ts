import { readFileSync, statSync, writeFileSync } from 'node:fs';

/** Input that cannot be used; said in a sentence, exit code 2. */
export class BadInput extends Error {}

export function readText(file: string, limit: number): string {
  return readBytes(file, limit).toString('utf8');
}

export function readBytes(file: string, limit: number): Buffer {
  try {
    const size = statSync(file).size;
    if (size > limit)
      throw new BadInput(
        `${file} has ${(size / 1e6).toFixed(0)} MB; at most ${limit / 1e6} MB are read. It was not opened.`,
      );
    return readFileSync(file);
  } catch (error) {
    if (error instanceof BadInput) throw error;
    const code = (error as NodeJS.ErrnoException).code;
    throw new BadInput(
      code === 'ENOENT'
        ? `There is no file ${file}.`
        : `${file} cannot be read (${code ?? 'unknown reason'}).`,
    );
  }
}

export function write(what: string, file: string, content: string | Uint8Array): void {
  try {
    writeFileSync(file, content);
  } catch (error) {
    throw new BadInput(
      `The ${what} cannot be written to ${file} (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}).`,
    );
  }
}
