import type { AxisAnswer } from '#core/answers/answers.ts';

/** So much of an answer is drawn small, s. */
const SMALL_S = 0.5;
/** Of what is asked: how far up the drawing goes. */
const MOST = 1.6;

/** The line of an answer within a drawing of that size, the first point at its left and what was asked at `1/1.6` of its height. */
export function answerLine({ step, asked }: AxisAnswer, width: number, height: number): string {
  const n = Math.min(step.rates.length - 1, Math.floor(SMALL_S / step.stepS));
  const points = Array.from({ length: n + 1 }, (_, k) => {
    const share = Math.min(2 * MOST, Math.max(-MOST, step.rates[k]! / asked));
    return `${((width * k * step.stepS) / SMALL_S).toFixed(1)} ${(height * (1 - share / MOST)).toFixed(1)}`;
  });
  return `M${points.join('L')}`;
}

/** Where what is asked stands. */
export const askedAt = (height: number): number => height * (1 - 1 / MOST);
