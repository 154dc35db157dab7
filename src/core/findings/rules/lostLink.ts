import { settingOf } from '../../settings/typed.ts';
import { finding, num, type Rule } from '../rule.ts';

const lostLinkAction: Rule = ({ values }) => {
  const action = settingOf(values, 'lost.action');
  const fix = { label: 'Return home when the link is lost', edits: { 'lost.action': 'return' } };
  if (action === 'nothing') {
    return [
      finding(
        'lost-nothing',
        'blocks',
        'lost-link',
        'Nothing happens when the link is lost',
        'The craft keeps its last commands and flies away.',
        ['lost.action'],
        fix,
      ),
    ];
  }
  if (action === 'cut') {
    return [
      finding(
        'lost-cut',
        'blocks',
        'lost-link',
        'The motors stop when the link is lost',
        'A short gap in the link far out drops the craft where it is.',
        ['lost.action'],
        fix,
      ),
    ];
  }
  return [];
};

const lostLinkDelay: Rule = ({ values }) => {
  const total = num(values, 'lost.notice') + num(values, 'lost.guard');
  if (total <= 15) return [];
  return [
    finding(
      'lost-late',
      'caution',
      'lost-link',
      `Help comes ${total.toFixed(0)} s after the link is lost`,
      'At cruise speed that is several hundred metres straight on.',
      ['lost.notice', 'lost.guard'],
      {
        label: 'Notice after 1 s, guard for 2 s',
        edits: { 'lost.notice': 1, 'lost.guard': 2 },
      },
    ),
  ];
};

const needFix: Rule = ({ values }) => {
  if (settingOf(values, 'lost.action') !== 'return' || settingOf(values, 'arm.needFix') === true) return [];
  return [
    finding(
      'return-without-home',
      'blocks',
      'lost-link',
      'It arms without a fix, so it may have no home',
      'Home is stored at arming. Without it the return glides down where it is.',
      ['arm.needFix'],
      {
        label: 'Arm only with a fix',
        edits: { 'arm.needFix': true },
      },
    ),
  ];
};

export const lostLinkRules: readonly Rule[] = [lostLinkAction, lostLinkDelay, needFix];
