import { isMotor } from '#core/airframe/airframe.ts';
import { kolkDefaults, kolkRefuses } from '#core/controllers/kolk.ts';
import type { BenchTruth } from '#core/formats/benchTruth.ts';
import type { SettingValue, Values } from '#core/settings/catalogue.ts';
import type { ControllerOnWire } from '#firmware/readings.ts';

export const KOLK = { product: 'Kolk', version: '16.2' };
type Kept = BenchTruth['controllers'][number];

/** Every motor's controller with its memory, which outlives the battery. */
export class Controllers {
  readonly onWire: readonly ControllerOnWire[];
  /** Battery in. */
  powered = false;
  private readonly kept: Kept[];

  /** @param onWrite told whenever one keeps something new */
  constructor(truth: BenchTruth, onWrite: (kept: BenchTruth['controllers']) => void = () => {}) {
    const motors = truth.pads.filter((p) => isMotor(p.actuator));
    this.kept = motors.map(({ actuator }) => {
      const own = truth.controllers.find((c) => c.motor === actuator);
      return {
        motor: actuator as Kept['motor'],
        pulsesOnly: own?.pulsesOnly ?? false,
        settings: { ...(kolkDefaults as Kept['settings']), ...own?.settings },
      };
    });
    this.onWire = motors.map(({ output }, i) => {
      const mine = this.kept[i]!;
      const isPowered = () => this.powered;
      return {
        output,
        product: KOLK.product,
        version: mine.pulsesOnly ? '' : KOLK.version,
        get answers() {
          return isPowered() && !mine.pulsesOnly;
        },
        read: (): Values => ({ ...mine.settings }),
        write: (key: string, value: SettingValue) => {
          if (kolkRefuses(key, value) !== null || mine.settings[key] === value) return;
          mine.settings[key] = value as Kept['settings'][string];
          onWrite(this.kept.map((k) => ({ ...k, settings: { ...k.settings } })));
        },
      };
    });
  }

  /** Whether the controller of a motor brakes when it stops. */
  brakes(motor: string): boolean {
    return this.kept.find((k) => k.motor === motor)?.settings.brake === true;
  }

  /** Whether it turns its motor round. */
  reverses(motor: string): boolean {
    return this.kept.find((k) => k.motor === motor)?.settings.direction === 'reversed';
  }
}
