import { describe, expect, it } from 'vitest';
import { contrast, EASY_ARCMIN, LEAST_ARCMIN, letterArcmin, luminance } from './legible.ts';
import { videoSystems } from './videoSystems.ts';

describe('how well letters can be read', () => {
  it('goes by the contrast that WCAG gives examples of', () => {
    // White on black is 21:1; #767676 is the lightest grey that has 4.5:1 on white.
    expect(contrast(luminance(255, 255, 255), luminance(0, 0, 0))).toBeCloseTo(21, 9);
    expect(contrast(luminance(255, 255, 255), luminance(0x76, 0x76, 0x76))).toBeGreaterThan(4.5);
    expect(contrast(luminance(255, 255, 255), luminance(0x77, 0x77, 0x77))).toBeLessThan(4.5);
  });

  it('goes by the angle of a letter before the eye', () => {
    // A screen of 13 cm at 4:3 is 7.8 cm high; a sixteenth of it at 60 cm is 28 arc minutes.
    expect(letterArcmin(videoSystems['analogue-625'])).toBeCloseTo(
      ((0.078 * (18 / 288)) / 0.6) * (180 / Math.PI) * 60,
      1,
    );
    expect(letterArcmin(videoSystems['analogue-625'])).toBeGreaterThan(EASY_ARCMIN);
    expect(letterArcmin(videoSystems.dipper)).toBeLessThan(LEAST_ARCMIN);
  });
});
