/**
 * What the command line says. Names come from files of other people: control characters in them do not reach the terminal.
 * Whoever reads and stops reading (`| head`) ends it quietly.
 */

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is taken out
const CONTROL = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f]/g;

const plain = (text: string): string => text.replace(CONTROL, '');

export function say(text: string): void {
  process.stdout.write(plain(text));
}

export function complain(text: string): void {
  process.stderr.write(plain(text));
}

/** A reader that is gone is no fault of anybody. */
export function endQuietlyWhenNobodyReads(): void {
  for (const stream of [process.stdout, process.stderr])
    stream.on('error', (error: NodeJS.ErrnoException) => {
      if (error.code === 'EPIPE') process.exit(0);
      throw error;
    });
}
