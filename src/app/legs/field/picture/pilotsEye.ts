import {
  CircleGeometry,
  Color,
  Fog,
  InstancedMesh,
  Matrix4,
  MeshBasicMaterial,
  PerspectiveCamera,
  Quaternion,
  Scene,
  Vector3,
  WebGLRenderer,
} from 'three';
import { groundAbout, groundHeight } from '#core/flight/terrain.ts';
import { Random } from '#core/math/random.ts';
import type { Place } from '#core/navigation/earth.ts';
import { CAMERA_SEES_DEG } from '#core/overlay/itemText.ts';
import type { Site } from '#core/site/site.ts';
import { daylight, groundMesh, seaMesh, turned } from '../../../drawing/ground3d.ts';

/** Where a camera is: m north and east of home, m above the sea; rad. */
export interface Pose {
  readonly north: number;
  readonly east: number;
  readonly height: number;
  readonly roll: number;
  readonly pitch: number;
  readonly yaw: number;
}

/** A bright day on a moor, whatever the application looks like. */
const SKY = '#c3d5dd';
const moor = { low: new Color('#4f6647'), high: new Color('#8a7a58'), sea: new Color('#5d8297') };
const POOL = '#a9c3cd';
/** Pools and stones by which one sees that it moves; not of the site, but strewn over it. */
const POOLS = 1400;
/** A machine without a graphics chip draws it thirty times a second. */
const MOST_POSTS = 10_000;
const POOLS_WITHIN_M = 3500;
const HAZE_FROM_M = 1500;
const HAZE_TO_M = 14_000;

/** The site as a camera in the nose sees it. @throws when there is no WebGL */
export class PilotsEye {
  private readonly renderer: WebGLRenderer;
  private readonly scene = new Scene();
  private readonly camera = new PerspectiveCamera(CAMERA_SEES_DEG, 16 / 9, 0.5, 20_000);
  private readonly homeEast: number;
  private readonly homeNorth: number;

  constructor(canvas: HTMLCanvasElement, site: Site, home: Place) {
    // What is seen is read back to judge how well letters stand out from it.
    this.renderer = new WebGLRenderer({ canvas, antialias: false, preserveDrawingBuffer: true });
    const about = groundAbout(site.terrain, home);
    this.homeEast = about.homeEastM;
    this.homeNorth = about.homeNorthM;
    this.scene.background = new Color(SKY);
    this.scene.fog = new Fog(SKY, HAZE_FROM_M, HAZE_TO_M);
    this.scene.add(...daylight(), groundMesh(site, moor, MOST_POSTS), seaMesh(moor.sea));
    this.scene.add(pools(site, this.homeEast, this.homeNorth));
  }

  size(width: number, height: number): void {
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / Math.max(1, height);
    this.camera.updateProjectionMatrix();
  }

  show(p: Pose): void {
    this.camera.position.set(this.homeEast + p.east, p.height + 0.5, -(this.homeNorth + p.north));
    turned(p.roll, p.pitch, p.yaw, this.camera.quaternion);
    this.renderer.render(this.scene, this.camera);
  }

  dispose(): void {
    this.scene.traverse((o) => {
      if ('geometry' in o) (o.geometry as { dispose(): void }).dispose();
      if ('material' in o) (o.material as { dispose(): void }).dispose();
    });
    this.renderer.dispose();
  }
}

/** Small water over the low ground about home, always at the same places. */
function pools(site: Site, homeEast: number, homeNorth: number): InstancedMesh {
  const random = new Random(61);
  const mesh = new InstancedMesh(
    new CircleGeometry(1, 7).rotateX(-Math.PI / 2),
    new MeshBasicMaterial({ color: POOL }),
    POOLS,
  );
  const at = new Matrix4();
  const place = new Vector3();
  const size = new Vector3();
  const still = new Quaternion();
  let made = 0;
  for (let k = 0; k < 3 * POOLS && made < POOLS; k++) {
    const east = homeEast + (2 * random.uniform() - 1) * POOLS_WITHIN_M;
    const north = homeNorth + (2 * random.uniform() - 1) * POOLS_WITHIN_M;
    const height = groundHeight(site.terrain, east, north);
    if (height < 2) continue;
    const wide = 1.5 + 14 * random.uniform() ** 3;
    mesh.setMatrixAt(
      made++,
      at.compose(
        place.set(east, height + 0.4, -north),
        still,
        size.set(wide, 1, wide * (0.4 + 0.5 * random.uniform())),
      ),
    );
  }
  mesh.count = made;
  return mesh;
}
