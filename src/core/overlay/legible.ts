import type { VideoSystem } from './videoSystems.ts';

/** Visual angle of a letter that is read with ease, and the least that is read at all, arc minutes (ISO 9241-303). */
export const EASY_ARCMIN = 20;
export const LEAST_ARCMIN = 16;

/** A screen in the hand: height of its picture, and how far it is held, m. Ours: 13 cm across, at arm's length. */
export const SCREEN_ACROSS_M = 0.13;
const ARM_M = 0.6;

/** How high a system's letters stand before the eye on a small screen at arm's length, arc minutes. */
export function letterArcmin(system: VideoSystem, acrossM = SCREEN_ACROSS_M, awayM = ARM_M): number {
  const height = acrossM / Math.hypot(1, system.aspect);
  return (2 * Math.atan((system.letter * height) / 2 / awayM) * 180 * 60) / Math.PI;
}

/** Relative luminance of an sRGB colour, each part 0 to 255 (WCAG 2.2). */
export function luminance(r: number, g: number, b: number): number {
  const linear = (part: number) => {
    const s = part / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  };
  return 0.2126 * linear(r) + 0.7152 * linear(g) + 0.0722 * linear(b);
}

/** Contrast of two luminances, 1 to 21 (WCAG 2.2). */
export const contrast = (a: number, b: number): number => (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);

/** White letters below this contrast are carried by their dark edge alone (WCAG 2.2 asks 3 : 1 of large letters). */
export const LEAST_CONTRAST = 3;
