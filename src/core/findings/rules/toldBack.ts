import { fittingRates, toldFit } from '../../toldBack/fit.ts';
import { ROOM_KEY, rateKey } from '../../toldBack/sensors.ts';
import { finding, need, type Rule } from '../rule.ts';

/** What goes back to the transmitter: more than there is room for, or no place. */
const toldBack: Rule = ({ values }) => {
  need(values, ROOM_KEY);
  const fit = toldFit(values);
  if (!fit.wayBack) return [];
  const found = [];
  if (fit.askedPerS > fit.roomPerS)
    found.push(
      finding(
        'told-too-much',
        'caution',
        'radio-hears',
        'More is told to the transmitter than there is room for',
        `${Math.ceil(fit.askedPerS)} bytes a second are asked for and ${fit.roomPerS} come back: everything is told later than it says.`,
        [ROOM_KEY, ...fit.sensors.filter((s) => s.hz > 0).map((s) => rateKey(s.id))],
        { label: 'Tell the rest less often', edits: fittingRates(fit) },
      ),
    );
  if (fit.sensors.find((s) => s.id === 'place')!.hz === 0)
    found.push(
      finding(
        'place-not-told',
        'caution',
        'radio-hears',
        'The transmitter is not told where the craft is',
        'The last place that came is what a search begins with; here none ever comes.',
        [rateKey('place')],
        { label: 'Tell the place each second', edits: { [rateKey('place')]: 1 } },
      ),
    );
  return found;
};

export const toldBackRules: readonly Rule[] = [toldBack];
