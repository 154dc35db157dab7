import { Random } from '#core/math/random.ts';
import type { Attack } from './attack.ts';
import { boundaryAttack, fileAttacks } from './files.ts';
import { powerAttacks } from './power.ts';
import { wireAttacks } from './wire.ts';

/** Share of the cases in a quick run, as `npm test` has it. */
const QUICK = 0.02;
const LEAST = 60;
const SEED = 20_261;
/** Memory may move by so much over an attack, MB. */
const HEAP_MB = 60;

const heapMb = () => {
  (globalThis as { gc?: () => void }).gc?.();
  return process.memoryUsage().heapUsed / 1e6;
};

/** Every attack, its cases counted. @returns the exit code: 1 where anything broke */
export async function main(quick: boolean): Promise<number> {
  const attacks: readonly Attack[] = [...wireAttacks, ...powerAttacks, ...fileAttacks, boundaryAttack];
  let broken = 0;
  for (const attack of attacks) {
    const cases = quick ? Math.max(LEAST, Math.round(QUICK * attack.cases)) : attack.cases;
    const once = attack.begin();
    const random = new Random(SEED);
    const faults = new Map<string, number>();
    const begun = performance.now();
    let before = 0;
    for (let n = 0; n < cases; n++) {
      // What is loaded and compiled with the first cases is not counted.
      if (n === Math.floor(cases / 10)) before = heapMb();
      const came = await once(random);
      if (came !== null) faults.set(came, (faults.get(came) ?? 0) + 1);
    }
    const grew = heapMb() - before;
    if (grew > HEAP_MB && cases > 1000) faults.set(`memory grew by ${grew.toFixed(0)} MB`, 1);
    const seconds = ((performance.now() - begun) / 1000).toFixed(1);
    const count = [...faults.values()].reduce((a, b) => a + b, 0);
    broken += count;
    process.stdout.write(
      `${attack.name.padEnd(34)} ${String(cases).padStart(9)} cases, ${count} broken, ${seconds} s\n`,
    );
    for (const [what, times] of [...faults].slice(0, 8))
      process.stdout.write(`    ${times} times: ${what}\n`);
  }
  process.stdout.write(broken === 0 ? 'Nothing broke.\n' : `${broken} cases broke something.\n`);
  return broken === 0 ? 0 : 1;
}
