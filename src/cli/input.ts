import {
  closeSync,
  constants,
  fstatSync,
  openSync,
  readSync,
  realpathSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { StringDecoder } from 'node:string_decoder';
import type * as z from 'zod';
import { parsed } from '#core/parsed.ts';

/** Input that cannot be used; said in a sentence, exit code 2. */
export class BadInput extends Error {}

export function readText(file: string, limit: number): string {
  return readBytes(file, limit).toString('utf8');
}

/** @param undone what was not done, as a sentence */
export function readJson(file: string, limit: number, undone = 'Nothing was done.'): unknown {
  const text = readText(file, limit);
  try {
    return JSON.parse(text);
  } catch {
    throw new BadInput(`${file} is not JSON. ${undone}`);
  }
}

/** Reads a file of JSON that a schema describes. */
export function readAs<S extends z.ZodType>(schema: S, file: string, limit: number): z.output<S> {
  const result = parsed(schema, readJson(file, limit));
  if (result.success) return result.data;
  const issue = result.error.issues[0]!;
  throw new BadInput(
    `${file}: ${issue.path.join('.') || 'the whole'} is not right: ${issue.message}. Nothing was done.`,
  );
}

/** Reads a regular file; a device or a pipe, which may never end, is refused. */
export function readBytes(file: string, limit: number): Buffer {
  return opened(file, limit, (handle, size) => {
    // One that grows meanwhile, or says that it is empty and is not, is read no further.
    const bytes = Buffer.alloc(size + 1);
    let length = 0;
    for (;;) {
      const read = readSync(handle, bytes, length, bytes.length - length, null);
      length += read;
      if (read === 0 || length === bytes.length) break;
    }
    if (length > size) throw new BadInput(`${file} grew while it was read. It was not taken.`);
    return bytes.subarray(0, length);
  });
}

const PIECE_BYTES = 1 << 20;

/** Reads a regular file as text, a piece at a time. */
export function readPieces(file: string, limit: number, take: (text: string) => void): void {
  opened(file, limit, (handle, size) => {
    const decoder = new StringDecoder('utf8');
    const piece = Buffer.alloc(PIECE_BYTES);
    for (let length = 0; ; ) {
      const read = readSync(handle, piece, 0, piece.length, null);
      if (read === 0) break;
      length += read;
      if (length > size) throw new BadInput(`${file} grew while it was read. It was not taken.`);
      take(decoder.write(piece.subarray(0, read)));
    }
    take(decoder.end());
  });
}

/** Opens a regular file of bounded size. @throws BadInput with a sentence for whatever is wrong with it */
function opened<T>(file: string, limit: number, use: (handle: number, size: number) => T): T {
  let handle: number | null = null;
  try {
    handle = openSync(file, constants.O_RDONLY | constants.O_NONBLOCK);
    const stat = fstatSync(handle);
    if (!stat.isFile()) throw new BadInput(`${file} is no regular file. It was not opened.`);
    if (stat.size > limit)
      throw new BadInput(
        `${file} has ${(stat.size / 1e6).toFixed(0)} MB; at most ${limit / 1e6} MB are read. It was not opened.`,
      );
    return use(handle, stat.size);
  } catch (error) {
    if (error instanceof BadInput) throw error;
    const code = (error as NodeJS.ErrnoException).code;
    throw new BadInput(
      code === 'ENOENT'
        ? `There is no file ${file}.`
        : `${file} cannot be read (${code ?? 'unknown reason'}).`,
    );
  } finally {
    if (handle !== null) closeSync(handle);
  }
}

/**
 * Writes a file whole or not at all: beside it first, then under its name.
 * @param inputs files that were read for it; none of them is ever written over
 */
export function write(
  what: string,
  file: string,
  content: string | Uint8Array,
  inputs: readonly (string | undefined)[] = [],
): void {
  if (inputs.some((input) => input !== undefined && isSame(input, file)))
    throw new BadInput(
      `The ${what} would be written over ${file}, which was read for it. Nothing was written; name another file.`,
    );
  const beside = `${file}.${process.pid}.part`;
  try {
    if (statSync(file, { throwIfNoEntry: false })?.isFile() === false) {
      // A device or a pipe takes it as it comes.
      writeFileSync(file, content);
      return;
    }
    writeFileSync(beside, content, { flag: 'wx' });
    renameSync(beside, file);
  } catch (error) {
    rmSync(beside, { force: true });
    throw new BadInput(
      `The ${what} cannot be written to ${file} (${(error as NodeJS.ErrnoException).code ?? 'unknown reason'}).`,
    );
  }
}

function isSame(a: string, b: string): boolean {
  try {
    return realpathSync(a) === realpathSync(b);
  } catch {
    return false;
  }
}
