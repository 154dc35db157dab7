/** What a worker needs to put a craft on the bench, in one piece, so that it can be loaded when it is wanted. */
export { BenchWorld } from './benchWorld.ts';
export { flashWith } from './flashImage.ts';
export { MemoryFlash } from './memoryFlash.ts';
