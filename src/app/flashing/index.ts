import { transfer } from 'comlink';
import { procedures } from '../board/procedures.ts';
import { boardSession } from '../board/session.ts';
import { history } from '../history/index.ts';
import { rows } from '../store/database.ts';
import { store } from '../store/store.ts';
import { workshop } from '../workers/index.ts';
import { BringingBack } from './BringingBack.ts';
import { ControllerFirmware } from './ControllerFirmware.ts';
import { Flashing } from './Flashing.ts';
import { ImageInHand } from './ImageInHand.ts';

/** The walk to another firmware in this page, with the browser's own parts. */
const parts = {
  store,
  storage: rows,
  session: boardSession,
  history,
  fetch: (file: string, limitMs: number) =>
    fetch(`/releases/${file}`, { signal: AbortSignal.timeout(limitMs) }),
  inspect: (hex: Uint8Array<ArrayBuffer>, target?: string) =>
    workshop().inspect(transfer(hex, [hex.buffer]), target),
  carry: (...what: Parameters<ReturnType<typeof workshop>['carry']>) => workshop().carry(...what),
  waitMs: 15_000,
};

export const imageInHand = new ImageInHand(parts);
export const bringingBack = new BringingBack(parts);
export const flashing = new Flashing(parts, imageInHand, bringingBack);
flashing.watch();
export const controllerFirmware = new ControllerFirmware(
  parts,
  imageInHand,
  () => void procedures.begin('controllers-read', {}),
);
