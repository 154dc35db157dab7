import { performanceOf, STATIC_MARGIN_LEAST, STATIC_MARGIN_MOST } from '../../airframe/performance.ts';
import { finding, num, type Rule } from '../rule.ts';

const batteryCells: Rule = ({ values, airframe }) => {
  const cells = num(values, 'battery.cells');
  if (cells === airframe.battery.cells) return [];
  return [
    finding(
      'cells',
      'caution',
      'starting-values',
      `The board expects ${cells} cells, the craft has ${airframe.battery.cells}`,
      'Low-voltage warnings come far too early or never.',
      ['battery.cells'],
      {
        label: `Expect ${airframe.battery.cells} cells`,
        edits: { 'battery.cells': airframe.battery.cells },
      },
    ),
  ];
};

const balance: Rule = ({ airframe }) => {
  const p = performanceOf(airframe);
  if (p.staticMargin < STATIC_MARGIN_LEAST) {
    const back = p.staticMargin < 0 ? 'behind' : 'close to';
    return [
      finding(
        'cg-aft',
        'blocks',
        'airframe',
        `The centre of gravity lies ${back} the neutral point`,
        `Static margin ${(100 * p.staticMargin).toFixed(0)} %; at least ${100 * STATIC_MARGIN_LEAST} % keeps the nose steady. Move weight forward by ${(1000 * (airframe.cgAftM - p.cgAftLimitM)).toFixed(0)} mm.`,
        [],
      ),
    ];
  }
  if (p.staticMargin > STATIC_MARGIN_MOST + 0.02) {
    return [
      finding(
        'cg-forward',
        'caution',
        'airframe',
        'The craft is nose-heavy',
        `Static margin ${(100 * p.staticMargin).toFixed(0)} %; above ${100 * STATIC_MARGIN_MOST} % the elevator runs out when slow.`,
        [],
      ),
    ];
  }
  return [];
};

export const craftRules: readonly Rule[] = [batteryCells, balance];
