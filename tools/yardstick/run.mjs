// One go of the yardstick in a process of its own, as JSON; null without a C compiler.
import { register } from 'tsx/esm/api';

register();
const { yardstick } = await import('./yardstick.ts');
process.stdout.write(JSON.stringify(yardstick()));
