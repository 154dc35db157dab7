#!/usr/bin/env node
// Prints the budgets' figures: `npm run bench [-- --json]`.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('./bench.ts');
await main(process.argv.includes('--json'));
