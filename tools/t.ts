import { turnstone } from '#core/airframe/turnstone.ts';
import { performanceOf, trimLevel } from '#core/airframe/performance.ts';
import { inertiaOf } from '#core/airframe/massModel.ts';
console.log(performanceOf(turnstone), inertiaOf(turnstone));
for (const v of [10,12,15,18,22,26]) { const t = trimLevel(turnstone, v); console.log(v, t && [t.alpha*57.3, t.elevator*57.3, t.thrust]); }
import { MotorUnit } from '#core/flight/propulsion.ts';
for (const V of [0, 12, 18, 24]) for (const u of [0.4,0.7,1]) { const m = new MotorUnit(turnstone.motors[0]!); for (let i=0;i<3000;i++) m.step(u, 15, V, 1.2, 1e-3); console.log(V,u,(m.omega*9.549).toFixed(0), m.thrust.toFixed(2), m.currentA.toFixed(2)); }
