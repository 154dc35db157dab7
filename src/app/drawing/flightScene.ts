import {
  BufferAttribute,
  BufferGeometry,
  CircleGeometry,
  type Color,
  DoubleSide,
  Group,
  Line,
  LineBasicMaterial,
  Mesh,
  MeshLambertMaterial,
  PerspectiveCamera,
  Scene,
  WebGLRenderer,
} from 'three';
import { type Airframe, isRotorcraft } from '#core/airframe/airframe.ts';
import type { TrackPoint } from '#core/formats/rehearsalResult.ts';
import { DEG } from '#core/math/scalar.ts';
import type { Site } from '#core/site/site.ts';
import { daylight, groundMesh, mapColors, placeOf, seaMesh, token, turned } from './ground3d.ts';

/** Axes of the scene: x east, y up, z south, metres from the terrain's origin. */

/** The craft is drawn larger than it is, or it would be a dot. */
const ENLARGED = 3;

/** A flat panel through four corners in body axes (x forward, y right, z down). */
function plate(corners: readonly (readonly [number, number, number])[], color: Color): Mesh {
  const geometry = new BufferGeometry();
  const flat = corners.flatMap(([x, y, z]) => [y, -z, -x]);
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(flat), 3));
  geometry.setIndex([0, 1, 2, 0, 2, 3]);
  geometry.computeVertexNormals();
  return new Mesh(geometry, new MeshLambertMaterial({ color, side: DoubleSide }));
}

/** The craft from its own dimensions, nose to -z, origin at the centre of gravity. */
function craftModel(a: Airframe): Group {
  const group = new Group();
  const ink = token('--ink');
  const paper = token('--soft');
  const roll = token('--roll');
  for (const p of a.planforms) {
    const half = p.pair ? p.spanM / 2 : p.spanM;
    const gamma = p.pair ? p.dihedralDeg * DEG : Math.PI / 2;
    for (const side of p.pair ? [-1, 1] : [0]) {
      const at = (t: number, aft: number): readonly [number, number, number] => [
        a.cgAftM - aft,
        side * (p.rootRightM + t * half * Math.cos(gamma)),
        -(p.upM + t * half * Math.sin(gamma)),
      ];
      // Left wing in another colour, so that a bank can be read.
      const color = side < 0 ? roll : paper;
      group.add(
        plate(
          [
            at(0, p.rootAftM),
            at(1, p.tipAftM),
            at(1, p.tipAftM + p.tipChordM),
            at(0, p.rootAftM + p.rootChordM),
          ],
          color,
        ),
      );
    }
  }
  const w = a.bodyWidthM / 2;
  const [nose, tail] = [a.cgAftM, a.cgAftM - a.lengthM];
  const h = a.bodyHeightM / 2;
  group.add(
    plate(
      [
        [nose, 0, 0],
        [nose - 0.2 * a.lengthM, w, 0],
        [tail, 0.3 * w, 0],
        [tail, -0.3 * w, 0],
      ],
      ink,
    ),
  ); // prettier-ignore
  group.add(
    plate(
      [
        [nose, 0, 0],
        [nose - 0.2 * a.lengthM, -w, 0],
        [tail, -0.3 * w, 0],
        [tail, 0, 0],
      ],
      ink,
    ),
  ); // prettier-ignore
  group.add(
    plate(
      [
        [nose, 0, 0],
        [nose - 0.2 * a.lengthM, 0, -h],
        [tail, 0, -0.3 * h],
        [tail, 0, 0.3 * h],
      ],
      ink,
    ),
  ); // prettier-ignore
  group.add(
    plate(
      [
        [nose, 0, 0],
        [nose - 0.2 * a.lengthM, 0, h],
        [tail, 0, 0.3 * h],
        [tail, 0, 0],
      ],
      ink,
    ),
  ); // prettier-ignore
  for (const m of a.motors) {
    const disc = new Mesh(
      new CircleGeometry(m.propDiameterM / 2, 24),
      new MeshLambertMaterial({
        color: m.rightM < 0 ? roll : paper,
        side: DoubleSide,
        transparent: true,
        opacity: 0.45,
      }),
    );
    disc.position.set(m.rightM, m.upM, m.aftM - a.cgAftM);
    if (m.thrust === 'up') disc.rotation.x = Math.PI / 2;
    group.add(disc);
    if (isRotorcraft(a)) {
      const x = a.cgAftM - m.aftM;
      group.add(
        plate(
          [
            [0, 0, 0],
            [x, m.rightM, 0],
            [x, m.rightM, 0.012],
            [0, 0, 0.02],
          ],
          ink,
        ),
      ); // prettier-ignore
    }
  }
  group.scale.setScalar(ENLARGED);
  return group;
}

/** The ground, the track and the craft in three dimensions. @throws when there is no WebGL */
export class FlightScene {
  /** Where it is looked at from: rad about the craft and above it, m away. */
  around = 2.6;
  above = 0.35;
  away = 28;
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(50, 1, 1, 16_000);
  private readonly craft: Group;
  private readonly width: number;
  private at: TrackPoint | null = null;

  constructor(
    canvas: HTMLCanvasElement,
    airframe: Airframe,
    track: readonly TrackPoint[],
    private readonly site: Site,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.scene.background = token('--paper');
    const colors = mapColors();
    this.scene.add(...daylight(), groundMesh(site, colors), seaMesh(colors.sea));
    const line = new BufferGeometry().setFromPoints(track.map((p) => placeOf(p, site.terrain.origin)));
    this.scene.add(new Line(line, new LineBasicMaterial({ color: token('--lake') })));
    this.craft = craftModel(airframe);
    this.scene.add(this.craft);
    const wing = airframe.planforms[0]?.spanM ?? 0;
    this.width =
      ENLARGED * Math.max(wing, ...airframe.motors.map((m) => 2 * Math.abs(m.rightM) + m.propDiameterM));
    this.away = 4.2 * this.width;
  }

  size(width: number, height: number): void {
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
    this.draw();
  }

  show(p: TrackPoint): void {
    this.at = p;
    this.draw();
  }

  draw(): void {
    const p = this.at;
    if (!p) return;
    const place = placeOf(p, this.site.terrain.origin);
    this.craft.position.copy(place);
    turned(p.rollDeg * DEG, p.pitchDeg * DEG, p.yawDeg * DEG, this.craft.quaternion);
    // The eye follows the course, not the bank.
    const around = this.around - p.yawDeg * DEG;
    this.camera.position.set(
      place.x + this.away * Math.cos(this.above) * Math.sin(around),
      Math.max(place.y + this.away * Math.sin(this.above), 3),
      place.z + this.away * Math.cos(this.above) * Math.cos(around),
    );
    this.camera.lookAt(place);
    this.renderer.render(this.scene, this.camera);
  }

  dispose(): void {
    this.scene.traverse((o) => {
      if (o instanceof Mesh || o instanceof Line) {
        o.geometry.dispose();
        (o.material as LineBasicMaterial).dispose();
      }
    });
    this.renderer.dispose();
  }
}
