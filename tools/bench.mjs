#!/usr/bin/env node
// Prints the budgets' figures: `npm run bench [-- --json] [--returns]`.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('./bench.ts');
await main(process.argv.includes('--json'), process.argv.includes('--returns'));
