import { store } from '../store/store.ts';
import { bench } from '../workers/index.ts';
import { benchPort } from './ports/benchPort.ts';
import { type Baud, SerialBoardPort, serialsOf } from './ports/serialPort.ts';
import { SocketBoardPort, socketAddress } from './ports/socketPort.ts';
import { boardSession } from './session.ts';

/** The cables that a person can choose: the bench, a serial port of this machine, a socket. */

let serial: SerialBoardPort | null = null;

const READS_ALONG =
  'Another tab works on this craft and has its boards. Press Work on it here to have them in this one.';

/** A sentence where no board may be spoken to from this tab. */
const mayNot = (): string | null => (store.getState().crafts.reading ? READS_ALONG : null);

/** What is on the bench is not spoken to while another cable is used. */
async function leaveBench(): Promise<void> {
  if (boardSession.port.kind === 'bench') await bench.control({ usb: false });
}

/** Connects to the bench, whose cable is in. */
export async function connectBench(): Promise<void> {
  if (boardSession.port.kind !== 'bench') boardSession.usePort(benchPort);
  await boardSession.connect();
}

/** Whether this browser lets a page have serial ports at all. */
export const hasSerial = (): boolean => serialsOf() !== null;

/**
 * Connects to a board on USB or a serial adapter; the person chooses the port, or the one that was allowed before is
 * taken. @returns a sentence where it is not, null where it is or nothing was chosen
 */
export async function connectSerial(baud: Baud, chooseAnew: boolean): Promise<string | null> {
  const why = mayNot();
  if (why) return why;
  const serials = serialsOf();
  if (!serials)
    return 'This browser gives pages no serial ports. One that does is needed for a board on USB.';
  const allowed = chooseAnew ? [] : await serials.getPorts();
  let port = allowed.length === 1 ? allowed[0]! : null;
  if (!port) {
    try {
      port = await serials.requestPort();
    } catch (error) {
      // Nothing was chosen.
      if ((error as { name?: string }).name === 'NotFoundError') return null;
      return 'The browser did not allow the port. Nothing was connected.';
    }
  }
  await leaveBench();
  serial?.forget();
  serial = new SerialBoardPort(serials, port, baud);
  boardSession.usePort(serial);
  await boardSession.connect();
  return null;
}

/** Connects to a board behind a WebSocket of this machine. @returns a sentence where the address is none */
export async function connectSocket(text: string): Promise<string | null> {
  const why = mayNot();
  if (why) return why;
  const address = socketAddress(text);
  if (!address)
    return 'An address is like ws://127.0.0.1:4311/; only boards of this machine can be reached. Nothing was connected.';
  await leaveBench();
  boardSession.usePort(new SocketBoardPort(address));
  await boardSession.connect();
  return null;
}

/** Lets the board on another cable go. */
export function letBoardGo(): void {
  boardSession.disconnect();
}
