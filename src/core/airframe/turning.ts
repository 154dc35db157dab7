import { PanelModel } from '../flight/panels.ts';
import type { Airframe } from './airframe.ts';
import { inertiaOf } from './massModel.ts';
import { deflectionsFor, trimLevel } from './performance.ts';

/** How a craft with wings answers one axis. */
export interface Answer {
  /** Steady rate per share of full surface, rad/s. */
  readonly rate: number;
  /** Acceleration per share of full surface, rad/s^2. */
  readonly accel: number;
}

/**
 * How the craft answers a full command about one axis at a speed, from numerical derivatives of the panel
 * model: roll as one degree of freedom, pitch and yaw with the angle of attack or slip left to settle.
 * @param axis roll, pitch, yaw
 * @param speed m/s
 */
export function answerOf(airframe: Airframe, axis: 0 | 1 | 2, speed: number): Answer {
  const panels = new PanelModel(airframe);
  const alpha = trimLevel(airframe, speed)?.alpha ?? 0.05;
  const v = Float64Array.of(speed * Math.cos(alpha), 0, speed * Math.sin(alpha));
  const w = new Float64Array(3);
  const d = new Float64Array(panels.surfaceIds.length);
  const inertia = inertiaOf(airframe);
  const i = [inertia.xx, inertia.yy, inertia.zz][axis]!;
  const evaluate = (): [moment: number, side: number] => {
    panels.evaluate(v, w, d);
    return [panels.moment[axis]! / i, panels.force[axis === 1 ? 2 : 1]! / airframe.massKg];
  };
  const [m0, f0] = evaluate();
  const h = 1e-4;
  w[axis] = h;
  const damping = (evaluate()[0] - m0) / h;
  w[axis] = 0;
  deflectionsFor(airframe, (['roll', 'pitch', 'yaw'] as const)[axis], h, d);
  const accel = (evaluate()[0] - m0) / h;
  d.fill(0);
  if (axis === 0) return { rate: -accel / damping, accel };
  const cross = axis === 1 ? 2 : 1;
  v[cross]! += speed * h;
  const [m1, f1] = evaluate();
  const stiff = (m1 - m0) / h;
  const lift = (f1 - f0) / h;
  // Steady: M_alpha a + M_q q + M_delta = 0 and q V = -Z_alpha a (for yaw: r V = Y_beta b).
  const perRate = axis === 1 ? -speed / lift : speed / lift;
  return { rate: -accel / (damping + stiff * perRate), accel };
}
