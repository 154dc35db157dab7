import { DEG } from '../math/scalar.ts';
import { WMM_2025 } from './magneticCoefficients.ts';

/** The earth's field at a place: north, east, down in nT, and what a compass user wants of it. */
export interface MagneticField {
  readonly northNt: number;
  readonly eastNt: number;
  readonly downNt: number;
  readonly strengthNt: number;
  /** Magnetic north east of true north, rad. */
  readonly declination: number;
  /** Below the horizon, rad. */
  readonly inclination: number;
}

const DEGREE = 12;
/** Reference radius of the model and the WGS 84 ellipsoid, km. */
const REFERENCE_KM = 6371.2;
const SEMI_MAJOR_KM = 6378.137;
const ECCENTRICITY2 = 0.00669437999014;

/**
 * World Magnetic Model 2025: the gradient of the scalar potential in spherical harmonics (Chulliat et al.
 * 2025, eq. 10-12), Legendre functions by recursion in Schmidt's norm.
 * @param lat degrees, geodetic. @param lon degrees. @param heightM above the ellipsoid
 * @param year decimal, within five years of 2025
 */
export function magneticField(lat: number, lon: number, heightM: number, year: number): MagneticField {
  const phi = lat * DEG;
  const h = heightM / 1000;
  // Geodetic to geocentric.
  const curvature = SEMI_MAJOR_KM / Math.sqrt(1 - ECCENTRICITY2 * Math.sin(phi) ** 2);
  const p = (curvature + h) * Math.cos(phi);
  const z = (curvature * (1 - ECCENTRICITY2) + h) * Math.sin(phi);
  const r = Math.hypot(p, z);
  const phiC = Math.asin(z / r);
  const cosTheta = Math.sin(phiC);
  const sinTheta = Math.max(Math.cos(phiC), 1e-10);
  const size = ((DEGREE + 1) * (DEGREE + 2)) / 2;
  const P = new Float64Array(size);
  const dP = new Float64Array(size);
  P[0] = 1;
  for (let n = 1; n <= DEGREE; n++) {
    for (let m = 0; m <= n; m++) {
      const i = index(n, m);
      if (n === m) {
        const k = n === 1 ? 1 : Math.sqrt((2 * n - 1) / (2 * n));
        const j = index(n - 1, m - 1);
        P[i] = k * sinTheta * P[j]!;
        dP[i] = k * (sinTheta * dP[j]! + cosTheta * P[j]!);
      } else {
        const a = (2 * n - 1) / Math.sqrt(n * n - m * m);
        const j = index(n - 1, m);
        const b = n - 2 >= m ? Math.sqrt(((n - 1) ** 2 - m * m) / (n * n - m * m)) : 0;
        const k = n - 2 >= m ? index(n - 2, m) : 0;
        P[i] = a * cosTheta * P[j]! - b * (n - 2 >= m ? P[k]! : 0);
        dP[i] = a * (cosTheta * dP[j]! - sinTheta * P[j]!) - b * (n - 2 >= m ? dP[k]! : 0);
      }
    }
  }
  const since = year - WMM_2025.epoch;
  const lambda = lon * DEG;
  let bTheta = 0;
  let bPhi = 0;
  let bR = 0;
  for (let n = 1; n <= DEGREE; n++) {
    const scale = (REFERENCE_KM / r) ** (n + 2);
    for (let m = 0; m <= n; m++) {
      const i = index(n, m);
      const g = WMM_2025.g[i]! + since * WMM_2025.gRate[i]!;
      const hh = WMM_2025.h[i]! + since * WMM_2025.hRate[i]!;
      const c = Math.cos(m * lambda);
      const s = Math.sin(m * lambda);
      const even = g * c + hh * s;
      bR += scale * (n + 1) * even * P[i]!;
      bTheta -= scale * even * dP[i]!;
      bPhi += (scale * m * (g * s - hh * c) * P[i]!) / sinTheta;
    }
  }
  // Spherical to geodetic north and down.
  const turn = phiC - phi;
  const northC = -bTheta;
  const downC = -bR;
  const northNt = northC * Math.cos(turn) - downC * Math.sin(turn);
  const downNt = northC * Math.sin(turn) + downC * Math.cos(turn);
  const level = Math.hypot(northNt, bPhi);
  return {
    northNt,
    eastNt: bPhi,
    downNt,
    strengthNt: Math.hypot(level, downNt),
    declination: Math.atan2(bPhi, northNt),
    inclination: Math.atan2(downNt, level),
  };
}

const index = (n: number, m: number) => (n * (n + 1)) / 2 + m;
