import { readFileSync } from 'node:fs';
import { turnstone } from '#core/airframe/turnstone.ts';
import { startingValues } from '#core/settings/startingValues.ts';
import { parseAsciiGrid } from '#core/formats/asciiGrid.ts';
import { pfadCatalogue } from '#firmware/catalogue.ts';
import { Rehearsal } from '#bench/rehearsal.ts';
import { usualChannels } from '#core/formats/benchTruth.ts';
const terrain = parseAsciiGrid(readFileSync('demo/terrain/torvholm.asc','utf8'));
const sv = startingValues(turnstone);
if (process.argv[2]==='v') for (const s of sv) console.log(s.key, s.value, s.why);
console.log(pfadCatalogue.entries.length);
const values: any = pfadCatalogue.defaults();
for (const s of sv) values[s.key]=s.value;
const roles = ['left-motor','right-motor','left-aileron','elevator','rudder','right-aileron'];
roles.forEach((r,i)=> values[`out.${i+1}.drives`]=r);
values['return.height']=410;
console.log(pfadCatalogue.check(values));
const truth:any={pads: roles.map((actuator,i)=>({output:i+1,actuator,direction:1})), channels: usualChannels, gnssBaud:38400};
const W = (process.argv[3]??'5').split(',').map(Number); const dirs=(process.argv[4]??'230').split(',').map(Number);
for (const w of W) for (const d of dirs) {
  const t0=performance.now();
  const r = new Rehearsal({airframe:turnstone, values, truth, terrain, scenario:{seed:7,home:{lat:61.883,lon:-12.43,heightM:38},wind:{speedMps:w,fromDeg:d,gustMps:w*0.2},outbound:{bearingDeg:50,distanceM:2500,heightM:120},events:[{atS:Number(process.argv[5]??180),do:'link-lost'}],limitS:1500}});
  while(!r.result) r.advance(10000);
  const q=r.result; const dt=(performance.now()-t0)/1000;
  console.log(w,d,q.verdict,q.reason,q.seconds,q.endDistanceM,q.closestM,q.usedWh, JSON.stringify(q.lostLink), (q.seconds/dt).toFixed(0)+'x');
  if (process.argv[6]) for (const t of q.track.filter((_,i)=>i%Number(process.argv[6])===0)) console.log(t.atS, ((t.lat-61.883)*111319).toFixed(0), ((t.lon+12.43)*111319*0.471).toFixed(0), t.heightM, t.airspeedMps, t.groundspeedMps, t.mode);
}
