import { fromProof, held, needsBoard, type Station, togetherOf } from '../station.ts';

declare module '#core/findings/rule.ts' {
  interface StationIds {
    volts: true;
  }
}

const station: Station = {
  id: 'volts',
  place: 80,
  name: 'Volts and amperes',
  about:
    'One honest reading of a meter sets the voltage, a known load or the charger sets the current; between them lies how the battery sags. Needs a meter on the battery, and a load or the charger’s readout.',
  needs: ['board', 'battery'],
  settings: /^battery\.(cells|scale|low|empty|capacity|currentScale|currentOffset)$/,
  small: (p) => {
    const volts = held('volts', p);
    const amps = held('amps', p) ?? held('charge', p);
    if (volts?.seen.kind === 'volts') {
      const off = (100 * Math.abs(volts.seen.boardV / volts.seen.meterV - 1)).toFixed(1);
      return amps ? `within ${off} %` : `volts within ${off} %; not the amperes`;
    }
    return needsBoard(p) ?? 'needs a meter';
  },
  // The current is seen by a load or by the charger.
  progress: (p) => fromProof(togetherOf(['volts', held('charge', p) ? 'charge' : 'amps'], p)),
  view: () => import('./VoltsStation.tsx'),
};
export default station;
