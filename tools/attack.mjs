#!/usr/bin/env node
// Hostile frames, files, power cuts and orders of commands against all that takes something from outside: `npm run attack [-- --quick]`.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('./attack/main.ts');
process.exitCode = await main(process.argv.includes('--quick'));
