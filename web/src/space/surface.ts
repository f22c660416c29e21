import {
  BackSide,
  type Box3,
  Color,
  BufferAttribute,
  BufferGeometry,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Plane,
  type Raycaster,
  Vector3,
  type Intersection,
  type Material,
  type MeshBasicMaterialParameters,
} from 'three';
import { boxRing, dot3, minus3, worldFromPlane, type ModelPoint, type Point } from '@calque/core/geometry';
import type { PlaneEntity } from '@calque/core/model';
import { frameOf } from '@calque/core/planes';
import type { Scene, SceneElement, SceneGroup } from '@calque/core/solids';
import type { Palette } from '@/table/palette';
import type { Table } from '@/table/table';
import { SOLID_COLOURS } from './colours';
import { byFacing, narrowOf, type Facing } from './facing';
import { cornersOfPlanes, planeOnRay, ringOf, type ScenePlane } from './scene';
import { SheetPicture } from './sheet-picture';
import { AMBIENT, SUN, TO_SUN, Turntable } from './turntable';

/** What has more ends of edges than this is turned without them, and coarser still. */
const MOST_ENDS = 20000;
/** So near to an edge's end (CSS pixels) a measuring pick is at it. */
const REACH = 12;
/** An end lies on a face that is no farther from it, millimetres: places are drawn in single precision. */
const ON_FACE = 1;
/** The nearest that a view of everything comes, millimetres. */
const NEAREST = 1000;

/** What hides a solid. */
export interface Hidden {
  storeys: ReadonlySet<string>;
  types: ReadonlySet<string>;
  layers: ReadonlySet<string>;
  sheets: boolean;
}

/** What the building is cut by: what lies on the side towards `normal` beyond the point is away. */
export interface CutPlane {
  at: ModelPoint;
  normal: ModelPoint;
}

/** What a ray found: an element and where on it, or a plane. */
export interface SpacePick {
  /** `normal`: of the face that was hit. */
  element: { id: string; storeyId: string; at: ModelPoint; normal: ModelPoint } | null;
  plane: PlaneEntity | null;
}

/** What looks one way, and where it lies; `normal` is null for what looks any way. */
interface Faced {
  mesh: Mesh;
  /** How many of its triangles are not narrow. */ wide: number;
  normal: Vector3 | null;
}

interface Shown {
  group: SceneGroup;
  /** All of it, to be picked; what is drawn are its faces. */ solid: Mesh;
  faces: Faced[];
  box: Box3;
  inside: Mesh;
  edges: LineSegments;
}

/** The drawing in three dimensions: solids, sheets on their planes and what is traced there; drawn when something has changed, and only then. */
export class SpaceSurface {
  /** How it is looked at. */
  readonly view: Turntable;
  private readonly solids = new Group();
  private readonly flat = new Group();
  private readonly marks = new Group();
  private shown: Shown[] = [];
  private planes: readonly ScenePlane[] = [];
  private sheets: SheetPicture[] = [];
  private hidden: Hidden = { storeys: new Set(), types: new Set(), layers: new Set(), sheets: false };
  private cuts: Plane[] = [];
  private wanted: readonly CutPlane[] = [];
  private origin: ModelPoint = [0, 0, 0];
  private corners: Vector3[] = [];
  private waiting: ReturnType<typeof setInterval>;
  constructor(
    private readonly canvas: HTMLCanvasElement,
    private readonly table: Table,
    private palette: Palette,
    /** Room that cards take at both sides, CSS pixels. */
    insets: { left: number; right: number },
  ) {
    this.view = new Turntable(canvas, insets, {
      corners: () => this.corners,
      nearest: NEAREST,
      isLarge: () => this.isLarge,
      beforeDraw: () => this.turnFaces(),
      coarse: (on) => this.setCoarse(on),
      settled: () => this.sharpen(),
    });
    this.view.scene.add(this.solids, this.flat, this.marks);
    this.waiting = setInterval(() => this.repaintSheets(), 250);
  }

  close(): void {
    clearInterval(this.waiting);
    this.clearSolids();
    this.clearFlat();
    this.clearMarks();
    this.view.close();
  }

  // --- what is shown

  setPalette(palette: Palette): void {
    this.palette = palette;
    this.view.draw();
  }

  setSolids(scene: Scene): void {
    this.clearSolids();
    const moved = this.origin.map((v, i) => v - scene.origin[i]);
    this.origin = scene.origin;
    // What is looked at stays where it is, though it is told about another origin.
    this.view.shift(new Vector3(moved[0], moved[1], moved[2]));
    this.shown = scene.groups.map((group) => this.show(group));
    this.placeFlat();
    this.findCorners();
    this.setCuts(this.wanted);
  }

  private show(group: SceneGroup): Shown {
    const surface = positions(group.triangles),
      colour = SOLID_COLOURS[group.type] ?? '#e6e8e4';
    const lines = positions(group.edges);
    const offset = { polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
    surface.computeBoundingBox();
    const shown: Shown = {
      group,
      solid: new Mesh(surface, new MeshBasicMaterial()),
      faces: byFacing(group.triangles, narrowOf(group.type)).map((f) => faced(f, colour, offset)),
      box: surface.boundingBox!,
      // What a cut lays open is seen from within: dark, as a cut is drawn.
      inside: new Mesh(surface, new MeshBasicMaterial({ color: '#5b6873', side: BackSide, ...offset })),
      edges: new LineSegments(
        lines,
        new LineBasicMaterial({ color: '#17273a', transparent: true, opacity: 0.55 }),
      ),
    };
    shown.solid.userData.group = group;
    this.solids.add(...shown.faces.map((f) => f.mesh), shown.inside, shown.edges);
    return shown;
  }

  private clearSolids(): void {
    for (const { solid, faces, inside, edges } of this.shown) {
      for (const o of [solid, edges, ...faces.map((f) => f.mesh)]) o.geometry.dispose();
      for (const o of [solid, inside, edges, ...faces.map((f) => f.mesh)]) (o.material as Material).dispose();
    }
    this.solids.clear();
    this.shown = [];
  }

  setPlanes(planes: readonly ScenePlane[]): void {
    this.clearFlat();
    this.planes = planes;
    for (const { plane, box, sheets, lines } of planes) {
      const group = new Group();
      group.matrixAutoUpdate = false;
      group.userData.planeId = plane.id;
      this.flat.add(group);
      this.sheets.push(...sheets.map((u) => new SheetPicture(this.table, u, group)));
      group.add(segments(lines.flatMap(pairsAlong), this.palette.ink, 1));
      if (plane.type === 'plane')
        group.add(segments(pairsAlong([...boxRing(box), boxRing(box)[0]]), this.palette.soft, 0.8));
    }
    this.placeFlat();
    this.findCorners();
    this.canvas.dataset.planes = String(planes.length);
    this.setHidden(this.hidden);
  }

  /** Planes where they lie about the scene's origin, which solids choose. */
  private placeFlat(): void {
    this.flat.children.forEach((group, i) => {
      const frame = frameOf(this.planes[i].plane);
      group.matrix.makeBasis(vector(frame.across), vector(frame.up), vector(cross(frame.across, frame.up)));
      group.matrix.setPosition(...this.about(frame.origin));
      group.matrixWorldNeedsUpdate = true;
    });
  }

  /** What a view of everything must hold. */
  private findCorners(): void {
    const solids = this.shown.flatMap(({ box }) => cornersOf(box));
    // Where something stands, that matters, and not the margins of the paper around it.
    this.corners =
      solids.length > 0 ? solids : cornersOfPlanes(this.planes).map((p) => new Vector3(...this.about(p)));
  }

  private clearFlat(): void {
    for (const sheet of this.sheets) sheet.close();
    this.sheets = [];
    this.flat.traverse((o) => {
      if (o instanceof LineSegments) {
        o.geometry.dispose();
        (o.material as Material).dispose();
      }
    });
    this.flat.clear();
  }

  setHidden(hidden: Hidden): void {
    this.hidden = hidden;
    let count = 0;
    for (const { group, solid, inside, edges } of this.shown) {
      const seen =
        !hidden.storeys.has(group.storeyId) &&
        !hidden.types.has(group.type) &&
        !hidden.layers.has(group.layerId ?? '');
      solid.visible = edges.visible = seen;
      inside.visible = seen && this.cuts.length > 0;
      if (seen) count += group.elements.length;
    }
    for (const group of this.flat.children) {
      const { planeId } = group.userData as { planeId: string };
      group.visible = !hidden.storeys.has(planeId);
      for (const part of group.children) if (part instanceof Mesh) part.visible = !hidden.sheets;
    }
    this.canvas.dataset.solids = String(count);
    this.view.draw();
  }

  setCuts(cuts: readonly CutPlane[]): void {
    this.wanted = cuts;
    this.cuts = cuts.map(({ at, normal }) => {
      const [x, y, z] = this.about(at);
      return new Plane().setFromNormalAndCoplanarPoint(
        new Vector3(-normal[0], -normal[1], -normal[2]),
        new Vector3(x, y, z),
      );
    });
    for (const { faces, inside, edges } of this.shown)
      for (const o of [...faces.map((f) => f.mesh), inside, edges]) {
        (o.material as Material).clippingPlanes = this.cuts;
        (o.material as Material).needsUpdate = true;
      }
    this.setHidden(this.hidden);
  }

  /** Marks elements, and a way that was measured. */
  setMarks(ids: ReadonlySet<string>, measured: readonly ModelPoint[]): void {
    this.clearMarks();
    for (const { group } of this.shown)
      for (const element of group.elements)
        if (ids.has(element.id)) this.marks.add(...this.marked(group, element));
    if (measured.length > 1) {
      const line = segments([], this.palette.now, 1);
      line.geometry.setAttribute(
        'position',
        new BufferAttribute(Float32Array.from(measured.flatMap((p) => this.about(p))), 3),
      );
      (line.material as Material).depthTest = false;
      this.marks.add(line);
    }
    this.view.draw();
  }

  private marked(group: SceneGroup, { triangles: [t0, t1], edges: [e0, e1] }: SceneElement) {
    const surface = new BufferGeometry(),
      lines = new BufferGeometry();
    surface.setAttribute('position', new BufferAttribute(group.triangles.slice(3 * t0, 3 * t1), 3));
    lines.setAttribute('position', new BufferAttribute(group.edges.slice(3 * e0, 3 * e1), 3));
    return [
      new Mesh(
        surface,
        new MeshBasicMaterial({
          color: this.palette.now,
          transparent: true,
          opacity: 0.3,
          depthWrite: false,
          clippingPlanes: this.cuts,
        }),
      ),
      new LineSegments(lines, new LineBasicMaterial({ color: this.palette.now, clippingPlanes: this.cuts })),
    ];
  }

  private clearMarks(): void {
    for (const o of this.marks.children)
      if (o instanceof Mesh || o instanceof LineSegments) {
        o.geometry.dispose();
        (o.material as Material).dispose();
      }
    this.marks.clear();
  }

  private onPlane(planeId: string, p: Point): ModelPoint {
    const plane = this.planes.find((s) => s.plane.id === planeId)!.plane;
    return worldFromPlane(frameOf(plane), p);
  }

  private repaintSheets(): void {
    if (this.table.tiles.waiting === 0 && this.quiet) return;
    this.quiet = this.table.tiles.waiting === 0;
    for (const sheet of this.sheets) sheet.paint();
    this.view.draw();
  }
  private quiet = false;

  /** While it is turned fewer pixels are drawn, and of a large building neither edges nor what is narrow. */
  private setCoarse(coarse: boolean): void {
    const bare = coarse && this.isLarge;
    for (const { solid, faces, edges } of this.shown) {
      edges.visible = solid.visible && !bare;
      for (const { mesh, wide } of faces) mesh.geometry.setDrawRange(0, bare ? 3 * wide : Infinity);
    }
  }

  /** Has it more edges than can be drawn while it is turned? */
  private get isLarge(): boolean {
    return this.shown.reduce((n, { group }) => n + group.edges.length / 3, 0) > MOST_ENDS;
  }

  /** What looks away from the eye, all of it, is not drawn. */
  private turnFaces(): void {
    const { camera, isParallel, towardsEye } = this.view,
      back = isParallel ? towardsEye : null;
    for (const { solid, faces, box } of this.shown)
      for (const { mesh, normal } of faces)
        mesh.visible = solid.visible && (normal === null || looksAt(normal, box, camera.position, back));
  }

  /** Sheets that are seen from near by get finer pictures. */
  private sharpen(): void {
    const { height } = this.canvas.getBoundingClientRect();
    for (const sheet of this.sheets) {
      const ring = ringOf(sheet.underlay).map((p) => this.onScreen(this.onPlane(sheet.underlay.planeId, p))),
        wide = Math.max(...ring.map((p) => p[0])) - Math.min(...ring.map((p) => p[0])),
        high = Math.max(...ring.map((p) => p[1])) - Math.min(...ring.map((p) => p[1]));
      sheet.sharpen(Math.min(Math.max(wide, high), 6 * height) * this.view.ratio);
    }
  }

  // --- places and picks

  private about([x, y, z]: ModelPoint): [number, number, number] {
    const [ox, oy, oz] = this.origin;
    return [x - ox, y - oy, z - oz];
  }

  /** Where a place of the model shows, CSS pixels of the canvas. */
  onScreen(place: ModelPoint): Point {
    return this.view.onScreen(new Vector3(...this.about(place)));
  }

  /** What lies under a place of the canvas: the nearest solid that is neither hidden nor cut away, else the nearest plane. */
  pick(at: Point): SpacePick {
    const ray = this.view.rayAt(at),
      hit = this.hitOf(ray);
    const { origin, direction } = ray.ray,
      [ox, oy, oz] = this.origin,
      plane = planeOnRay(
        this.planes.filter((p) => !this.hidden.storeys.has(p.plane.id)),
        [origin.x + ox, origin.y + oy, origin.z + oz],
        [direction.x, direction.y, direction.z],
      );
    // An upright plane with its sheet often stands before what it shows: what is solid is meant.
    if (!hit) return { element: null, plane };
    const group = hit.object.userData.group as SceneGroup,
      corner = (hit.faceIndex ?? 0) * 3,
      element = group.elements.find((e) => corner >= e.triangles[0] && corner < e.triangles[1])!;
    return {
      element: {
        id: element.id,
        storeyId: group.storeyId,
        at: [hit.point.x + ox, hit.point.y + oy, hit.point.z + oz],
        normal: hit.face ? [hit.face.normal.x, hit.face.normal.y, hit.face.normal.z] : [0, 0, 0],
      },
      plane: null,
    };
  }

  private hitOf(ray: Raycaster): Intersection | null {
    const seen = this.shown.filter((s) => s.solid.visible).map((s) => s.solid);
    return (
      ray
        .intersectObjects(seen, false)
        .find(({ point }) => this.cuts.every((c) => c.distanceToPoint(point) >= -1e-3)) ?? null
    );
  }

  /** The place that a measuring pick means: an end of an edge of what lies there, if one is near, else the place on its face. */
  measuredAt(at: Point): ModelPoint | null {
    const { element } = this.pick(at);
    if (!element) return null;
    let best: ModelPoint = element.at,
      least = REACH;
    for (const { group } of this.shown)
      for (const e of group.elements) {
        if (e.id !== element.id || group.storeyId !== element.storeyId) continue;
        for (let i = e.edges[0]; i < e.edges[1]; i++) {
          const p: ModelPoint = [0, 1, 2].map(
            (k) => group.edges[3 * i + k] + this.origin[k],
          ) as unknown as ModelPoint;
          // What lies behind the face that is pointed at is not meant.
          if (Math.abs(dot3(minus3(p, element.at), element.normal)) > ON_FACE) continue;
          const [x, y] = this.onScreen(p),
            far = Math.hypot(x - at[0], y - at[1]);
          if (far < least) [best, least] = [p, far];
        }
      }
    return best;
  }

  /** The corners about the elements: lowest and highest; null where none of them is a solid. */
  boxOf(ids: ReadonlySet<string>): { low: ModelPoint; high: ModelPoint } | null {
    const low = [Infinity, Infinity, Infinity],
      high = [-Infinity, -Infinity, -Infinity];
    for (const { group } of this.shown)
      for (const e of group.elements)
        if (ids.has(e.id))
          for (let i = 3 * e.triangles[0]; i < 3 * e.triangles[1]; i++) {
            const v = group.triangles[i] + this.origin[i % 3];
            low[i % 3] = Math.min(low[i % 3], v);
            high[i % 3] = Math.max(high[i % 3], v);
          }
    return low[0] > high[0] ? null : { low: [low[0], low[1], low[2]], high: [high[0], high[1], high[2]] };
  }
}

const positions = (figures: Float32Array): BufferGeometry =>
  new BufferGeometry().setAttribute('position', new BufferAttribute(figures, 3));

/** What looks one way is lit alike: its colour is worked out once, as the lights would (Lambert). */
function faced(
  { normal, triangles, wide }: Facing,
  colour: string,
  offset: MeshBasicMaterialParameters,
): Faced {
  const geometry = positions(triangles);
  if (!normal) {
    geometry.computeVertexNormals();
    return { normal, wide, mesh: new Mesh(geometry, new MeshLambertMaterial({ color: colour, ...offset })) };
  }
  const way = vector(normal),
    light = (AMBIENT + SUN * Math.max(0, way.dot(TO_SUN))) / Math.PI;
  const material = new MeshBasicMaterial({ color: new Color(colour).multiplyScalar(light), ...offset });
  return { normal: way, wide, mesh: new Mesh(geometry, material) };
}

const cornersOf = ({ min, max }: Box3): Vector3[] =>
  [0, 1, 2, 3, 4, 5, 6, 7].map(
    (i) => new Vector3(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z),
  );

/** May anything within a box that looks one way be seen by an eye, or from so far back that all of it is seen from one direction? */
const looksAt = (normal: Vector3, box: Box3, eye: Vector3, back: Vector3 | null): boolean =>
  back ? normal.dot(back) > 0 : cornersOf(box).some((corner) => normal.dot(eye) > normal.dot(corner));

const vector = ([x, y, z]: ModelPoint): Vector3 => new Vector3(x, y, z);
const cross = (a: ModelPoint, b: ModelPoint): ModelPoint => {
  const v = new Vector3().crossVectors(vector(a), vector(b));
  return [v.x, v.y, v.z];
};

const pairsAlong = (line: readonly Point[]): [Point, Point][] =>
  line.slice(1).map((q, i): [Point, Point] => [line[i], q]);

function segments(pairs: readonly (readonly [Point, Point])[], color: string, opacity: number): LineSegments {
  const geometry = new BufferGeometry();
  geometry.setAttribute(
    'position',
    new BufferAttribute(Float32Array.from(pairs.flatMap(([p, q]) => [p[0], p[1], 0, q[0], q[1], 0])), 3),
  );
  return new LineSegments(geometry, new LineBasicMaterial({ color, transparent: opacity < 1, opacity }));
}
