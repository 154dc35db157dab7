import { fellF7Model } from './boards.ts';
import { describeBoard } from './describe.ts';

/** What Fell F7 says of itself. */
export const fellF7 = describeBoard(fellF7Model);
