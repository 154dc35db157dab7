#!/usr/bin/env node
// The model against second opinions and flights against expectations: `npm run audit [-- --json] [--quick] [--write]`.
import { register } from 'tsx/esm/api';

register();
const { main } = await import('./audit/main.ts');
await main();
