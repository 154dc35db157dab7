import type { CraftFile } from '#core/formats/craftFile.ts';
import type { Values } from '#core/settings/catalogue.ts';
import { radioAlarms } from '#core/toldBack/alarms.ts';
import { toldFigures } from '#core/toldBack/figures.ts';
import { fittingRates, toldFit } from '#core/toldBack/fit.ts';
import { frameBytes, sensorOf } from '#core/toldBack/sensors.ts';
import { say } from './output.ts';

/** What a craft tells its transmitter, and whether there is room for it; exit code 1 where there is not, or no way back. */
export function showTold(craft: CraftFile, values: Values, json: boolean): number {
  const fit = toldFit(values);
  const alarms = radioAlarms(values, 'metric');
  const told = fit.sensors.map((s) => ({
    ...s,
    name: sensorOf(s.id).name,
    frameBytes: frameBytes(sensorOf(s.id)),
    appearsAs: toldFigures(s.id, {}, 'metric').map((f) => f.name),
  }));
  if (json)
    say(
      `${JSON.stringify({ craft: craft.name, ...fit, sensors: told, fitting: fittingRates(fit), alarms }, null, 2)}\n`,
    );
  else if (!fit.wayBack)
    say(`${craft.name}: its receiver's protocol has no way back; nothing is told to the transmitter.\n`);
  else {
    for (const s of told)
      say(
        `${s.hz > 0 ? `${s.hz.toFixed(1).padStart(4)} a second  ${s.bytesPerS.toFixed(0).padStart(4)} bytes a second` : '   never                           '}  ${s.name}: ${s.appearsAs.join(', ')}\n`,
      );
    say(`${Math.ceil(fit.askedPerS)} of ${fit.roomPerS} bytes a second are asked for.\n`);
    for (const a of alarms)
      say(
        `alarm     ${a.what}: ${a.deaf ? `nothing is told of it (${sensorOf(a.deaf).name})` : a.at}; the board ${a.board}\n`,
      );
  }
  return !fit.wayBack || fit.share < 1 ? 1 : 0;
}
