import { transfer } from 'comlink';
import type { BoardPort } from '#link/port.ts';
import { portTransport } from '#link/transport.ts';
import { BENCH_CABLE } from '../../store/boardSlice.ts';
import { bench } from '../../workers/index.ts';

/** The cable to the board on the simulated bench. */
export const benchPort: BoardPort = {
  kind: 'bench',
  name: BENCH_CABLE,
  onAppear: () => {},
  async open() {
    const channel = new MessageChannel();
    if (!(await bench.plug(transfer(channel.port1, [channel.port1]))))
      throw new Error('No board answers on the cable.');
    return portTransport(channel.port2);
  },
  async presence() {
    const state = await bench.state();
    if (!state?.controls.usb) return 'out';
    return state.running ? 'there' : 'dark';
  },
  settle: () => bench.keepNow(),
};
