import { type ChildProcessWithoutNullStreams, spawn } from 'node:child_process';

interface BoardProcess {
  readonly run: ChildProcessWithoutNullStreams;
  /** Of its WebSocket. */
  readonly address: string;
  /** What hands do at its bench. */
  hands(what: object): void;
}

/** A board in a process of its own, behind a WebSocket. @param more arguments of `wanderweg board` */
export async function board(...more: string[]): Promise<BoardProcess> {
  const args = ['bin/wanderweg.mjs', 'board', '--socket', '0', ...more];
  const run = spawn(process.execPath, args, { stdio: 'pipe' });
  const address = await new Promise<string>((resolve, reject) => {
    let said = '';
    run.stderr.on('data', (d: Buffer) => {
      said += d.toString();
      const at = /ws:\/\/\S+/.exec(said);
      if (at) resolve(at[0]);
    });
    run.on('exit', () => reject(new Error(said)));
  });
  return { run, address, hands: (what) => void run.stdin.write(`${JSON.stringify(what)}\n`) };
}
