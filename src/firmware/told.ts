import { type Health, healthSteps } from '#core/estimation/health.ts';
import { systems } from '#core/sensors/satellites.ts';
import { type Status, type TelemetryGroup, tuneStates } from '#core/wire/telemetry.ts';
import type { Pfad } from './pfad.ts';
import { framesOn } from './procedures.ts';
import type { Readings } from './readings.ts';
import { WRITTEN_VERSION } from './versions.ts';

/** What a group of telemetry says now, as it travels (docs/link.md); how the board itself is, the link knows (`services.ts`). */
export function told(group: Exclude<TelemetryGroup, 'services'>, pfad: Pfad, r: Readings): unknown {
  const c = pfad.controller;
  switch (group) {
    case 'attitude': {
      const a = c.attitude;
      return [a.roll, a.pitch, a.yaw, a.rates[0], a.rates[1], a.rates[2]];
    }
    case 'outputs':
      return Array.from(c.pulses);
    case 'answers':
      return c.wouldGive;
    case 'receiver':
      return [...c.input.channels, c.linkAlive ? c.input.quality : 0, Math.min(c.input.frameAge, 9999)];
    case 'radio':
      return [c.input.heard, c.input.frames, c.input.refused, c.input.faults];
    case 'motors':
      return r.controllers.flatMap(({ output, tells, told }) =>
        tells && framesOn(c, output) ? [output, told.rpm, told.degC, told.amps] : [],
      );
    case 'power':
      return [c.supplyV, c.currentA, c.usedMah, r.servoRailV];
    case 'tune': {
      const { state, seconds, found } = c.tune;
      return [
        tuneStates.indexOf(state),
        seconds,
        ...[found.roll, found.pitch].flatMap((f) =>
          f
            ? [
                f.gains.proportional,
                f.gains.integral,
                f.gains.derivative,
                f.gains.feedForward,
                f.of.lateS + f.of.lagS,
                f.of.explained,
              ]
            : [0, 0, 0, 0, 0, 0],
        ),
      ];
    }
    case 'trim':
      return [c.trim.seconds, c.trim.roll, c.trim.pitch];
    case 'dials':
      return Array.from(c.dials.times);
    case 'overlay': {
      const { overlay } = pfad;
      const { system } = c.config.overlay;
      overlay.draw(c);
      return {
        columns: system?.columns ?? 0,
        layout: overlay.layout,
        cells: Uint8Array.from(new Uint8Array(overlay.cells.buffer)),
      };
    }
    case 'video': {
      const { asked, told, byPort } = pfad.video;
      return [byPort ? 1 : 0, asked.mhz, asked.mw, told?.mhz ?? 0, told?.mw ?? 0];
    }
    case 'signals': {
      const { moment, lamps, toneHz, motorsSing } = pfad.signals;
      return { moment, lamps: Uint8Array.from(lamps), toneHz, motorsSing };
    }
    case 'tells': {
      const { perS, last } = pfad.teller;
      const frames = new Uint8Array(last.reduce((sum, f) => sum + f.length, 0));
      let at = 0;
      for (const f of last) {
        frames.set(f, at);
        at += f.length;
      }
      return { perS, frames };
    }
    case 'charge': {
      const { leftMah, needMah, low, empty, reserveMah } = c.sanity.battery;
      return [empty ? 2 : low ? 1 : 0, leftMah, needMah, reserveMah].map((v) => (Number.isNaN(v) ? -1 : v));
    }
    case 'navigation': {
      const p = c.position;
      const course = Math.atan2(p.velocityEast, p.velocityNorth);
      const fix = p.hasFix;
      const home = c.homeSet ? c.home.distance(p) : 0;
      const ground = Math.hypot(p.velocityNorth, p.velocityEast);
      return [
        c.satellitesUsed,
        fix ? 1 : 0,
        fix ? c.sensing.nmea.epoch.lat : 0,
        fix ? c.sensing.nmea.epoch.lon : 0,
        p.height,
        ground,
        course,
        c.airspeed,
        c.homeSet ? 1 : 0,
        home,
      ];
    }
    case 'home': {
      const { home, position: p, sensing: s } = c;
      const from = !s.headingKnown ? 0 : s.headingByCompass ? 1 : 2;
      return [
        c.homeSet ? 1 : 0,
        p.north - home.homeNorth,
        p.east - home.homeEast,
        home.satellites,
        home.accuracy,
        s.attitude.yaw,
        from,
      ];
    }
    case 'estimates': {
      const { attitude: a, position: p, air } = c.sensing;
      const step = (h: Health) => healthSteps.indexOf(h);
      return [
        step(a.estimate.health),
        a.estimate.accuracy,
        step(p.place.health),
        p.place.accuracy,
        step(p.level.health),
        p.level.accuracy,
        step(air.health),
        air.accuracy,
        step(p.wind.health),
        p.windNorth,
        p.windEast,
        c.sensing.headingKnown ? 1 : 0,
      ];
    }
    case 'sky': {
      const { nmea, gnss } = c.sensing;
      const e = nmea.epoch;
      return [
        ...[gnss.spokeS, gnss.fixS, c.satellitesUsed, e.hdop, nmea.bytes, nmea.sentences, nmea.faults],
        r.gnssOnTx,
        ...nmea.satellites
          .slice(0, 40)
          .flatMap((s) => [
            systems.findIndex((x) => x.letter === s.system),
            ...[s.id, s.elevationDeg, s.azimuthDeg, s.strength],
            s.used ? 1 : 0,
          ]),
      ];
    }
    case 'status': {
      const status: Status = {
        mode: c.mode,
        armed: c.armed,
        blockers: c.armed ? [] : c.blockers(),
        lost: c.lost.state,
        lostAction: c.pilot,
        restartNeeded: pfad.restartNeeded,
        benchAllowed: c.bench.allowed,
        moving: c.bench.output,
        unavailable: c.unavailable(),
        refusal: c.refusal ?? '',
        decisions: c.journal.count,
        // Before 3.2 nothing but the link changed them.
        settings: pfad.version === WRITTEN_VERSION ? pfad.fingerprint : '',
      };
      return status;
    }
  }
}
