import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  Plane,
  Vector3,
  type Material,
  type Object3D,
} from 'three';
import { facing, type Frame, type ModelPoint, type Point } from '@calque/core/geometry';
import type { EdgeName } from '@calque/core/model';
import type { Section, ShownEdge, ShownSolid } from '@calque/core/forming';
import { Turntable } from '@/space/turntable';
import type { Palette } from '@/table/palette';
import type { PartLook } from './look-card';
import { isChosenEdge } from './part-ui';
import type { ShownShades } from './shade-colours';

/** An edge is meant by a pick so near to it, CSS pixels. */
const REACH = 7;
const NEAREST = 20;
/** Materials are shown so much nearer to paper than they are. */
const PAPER = '#f4f4ef',
  LIGHT = 0.55;

/** What a pick in the picture of a part found. */
export type PartPick =
  { kind: 'face'; name: string; at: ModelPoint } | { kind: 'edge'; edge: ShownEdge } | null;

/** What a place in the list of edges is called by: its faces, and its middle where they meet in several. */
export const nameOfEdge = (edge: ShownEdge, all: readonly ShownEdge[]): EdgeName => ({
  between: edge.between,
  near:
    all.filter((e) => e.between.every((n, i) => n === edge.between[i])).length > 1 ? [...edge.middle] : null,
});

/** The picture of a part: its solid with its edges, what is chosen of it, and lines that lie on its planes. */
export class PartSurface {
  readonly view: Turntable;
  private readonly parts = new Group();
  private readonly marks = new Group();
  private readonly flat = new Group();
  private solid: ShownSolid | null = null;
  private mesh: Mesh | null = null;
  /** What is seen of the solid in place of all of it: a cut, colours. */
  private readonly looks = new Group();

  constructor(
    private readonly canvas: HTMLCanvasElement,
    private palette: Palette,
    insets: { left: number; right: number },
  ) {
    this.view = new Turntable(canvas, insets, {
      corners: () => this.corners(),
      nearest: NEAREST,
      isLarge: () => false,
      beforeDraw: () => {},
      coarse: () => {},
      settled: () => {},
    });
    this.view.scene.add(this.parts, this.looks, this.flat, this.marks);
  }

  close(): void {
    for (const group of [this.parts, this.looks, this.marks, this.flat]) empty(group);
    this.view.close();
  }

  private corners(): Vector3[] {
    const box = new Box3();
    for (const group of [this.parts, this.flat]) if (group.children.length > 0) box.expandByObject(group);
    if (box.isEmpty()) return [];
    const { min, max } = box;
    return [0, 1, 2, 3, 4, 5, 6, 7].map(
      (i) => new Vector3(i & 1 ? max.x : min.x, i & 2 ? max.y : min.y, i & 4 ? max.z : min.z),
    );
  }

  setPalette(palette: Palette): void {
    this.palette = palette;
    this.view.draw();
  }

  setSolid(solid: ShownSolid | null, colour: string): void {
    empty(this.parts);
    this.solid = solid;
    this.mesh = null;
    if (solid) {
      const { corners, normals, triangles } = solid.skin,
        geometry = new BufferGeometry();
      geometry.setAttribute('position', new BufferAttribute(corners, 3));
      geometry.setAttribute('normal', new BufferAttribute(normals, 3));
      geometry.setIndex(new BufferAttribute(triangles, 1));
      this.mesh = new Mesh(
        geometry,
        new MeshLambertMaterial({
          // Quiet, as all solids are: edges tell its form.
          color: new Color(colour).lerp(new Color(PAPER), LIGHT),
          polygonOffset: true,
          polygonOffsetFactor: 1,
          polygonOffsetUnits: 1,
        }),
      );
      this.parts.add(
        this.mesh,
        lines(
          solid.edges.map((e) => e.points),
          '#17273a',
          0.75,
        ),
      );
    }
    this.canvas.dataset.faces = String(solid?.skin.faces.length ?? 0);
    this.view.draw();
  }

  /** Shows the solid cut open by a plane, or its skin in colours; as it is where neither is given. */
  setLook({ shades, section }: PartLook): void {
    empty(this.looks);
    const planes = section ? [cutting(section.frame)] : [];
    this.parts.traverse((o) => {
      if (!(o instanceof Mesh || o instanceof LineSegments)) return;
      const material = o.material as Material;
      material.clippingPlanes = planes;
      // Behind the cut the inner side of the skin is seen.
      material.side = section && o instanceof Mesh ? DoubleSide : FrontSide;
      material.needsUpdate = true;
      if (o instanceof Mesh) o.visible = shades === null;
    });
    if (shades) this.looks.add(coloured(shades));
    if (section?.cut) this.looks.add(cutFace(section.cut, this.palette.now));
    const cut = section?.cut ? 'section' : section && 'cutting';
    this.canvas.dataset.look = shades ? 'shades' : (cut ?? '');
    this.view.draw();
  }

  /** Lines that are drawn on planes of the part, in its space. */
  setLines(groups: readonly { points: Float32Array[]; now: boolean }[]): void {
    empty(this.flat);
    for (const { points, now } of groups)
      if (points.length > 0)
        this.flat.add(lines(points, now ? this.palette.now : this.palette.soft, now ? 1 : 0.7));
    this.view.draw();
  }

  /** Marks what is chosen, and where something cannot be made or is doubtful. */
  setMarks(faces: readonly string[], edges: readonly EdgeName[], places: readonly ModelPoint[]): void {
    empty(this.marks);
    const { solid } = this;
    if (solid) {
      const chosen = solid.skin.faces.filter((f) => faces.includes(f.name));
      if (chosen.length > 0) {
        const geometry = new BufferGeometry();
        geometry.setAttribute('position', new BufferAttribute(solid.skin.corners, 3));
        geometry.setIndex(
          chosen.flatMap((f) => [...solid.skin.triangles.subarray(f.start, f.start + f.count)]),
        );
        this.marks.add(
          new Mesh(
            geometry,
            new MeshBasicMaterial({
              color: this.palette.now,
              transparent: true,
              opacity: 0.4,
              depthWrite: false,
            }),
          ),
        );
      }
      const along = solid.edges.filter((e) => isChosenEdge(edges, nameOfEdge(e, solid.edges)));
      if (along.length > 0) {
        const marked = lines(
          along.map((e) => e.points),
          this.palette.now,
          1,
        );
        (marked.material as LineBasicMaterial).depthTest = false;
        this.marks.add(marked);
      }
    }
    for (const [x, y, z] of places) {
      const size = this.size() / 40,
        cross: Float32Array[] = [0, 1, 2].map((k) => {
          const [a, b] = [
            [x, y, z],
            [x, y, z],
          ];
          a[k] -= size;
          b[k] += size;
          return Float32Array.from([...a, ...b]);
        }),
        mark = lines(cross, this.palette.differs, 1);
      (mark.material as LineBasicMaterial).depthTest = false;
      this.marks.add(mark);
    }
    this.canvas.dataset.marked = String(faces.length + edges.length);
    this.view.draw();
  }

  private size(): number {
    const box = this.solid?.measures.box;
    return box ? Math.hypot(box[3] - box[0], box[4] - box[1], box[5] - box[2]) : 100;
  }

  /** The edge that lies under a place of the canvas, else the face. */
  pick(at: Point): PartPick {
    const { solid, mesh } = this;
    if (!solid || !mesh) return null;
    const hit = this.view.rayAt(at).intersectObject(mesh, false)[0];
    if (!hit) return null;
    const edge = this.edgeNear(at, hit.distance);
    if (edge) return { kind: 'edge', edge };
    const index = (hit.faceIndex ?? 0) * 3,
      face = solid.skin.faces.find((f) => index >= f.start && index < f.start + f.count);
    return face ? { kind: 'face', name: face.name, at: [hit.point.x, hit.point.y, hit.point.z] } : null;
  }

  private edgeNear(at: Point, distance: number): ShownEdge | null {
    const { camera } = this.view,
      slack = this.size() / 100;
    let best: ShownEdge | null = null,
      least = REACH;
    for (const edge of this.solid!.edges) {
      const { points } = edge;
      let before: Point | null = null;
      for (let i = 0; i < points.length; i += 3) {
        const place = new Vector3(points[i], points[i + 1], points[i + 2]),
          here = this.view.onScreen(place);
        // What lies behind what was hit is not meant.
        const isBefore = this.view.isParallel || place.distanceTo(camera.position) <= distance + slack;
        if (before && isBefore) {
          const far = fromSegment(at, before, here);
          if (far < least) [best, least] = [edge, far];
        }
        before = here;
      }
    }
    return best;
  }
}

/** What lies on the side to which a plane looks is taken away. */
function cutting(frame: Frame): Plane {
  const [x, y, z] = facing(frame),
    normal = new Vector3(-x, -y, -z);
  return new Plane(normal, -normal.dot(new Vector3(...frame.origin)));
}

function coloured({ of, colour }: ShownShades): Mesh {
  const geometry = new BufferGeometry(),
    colours = new Float32Array(of.corners.length),
    known = new Map<string, Color>();
  of.values.forEach((v, t) => {
    const words = colour(v);
    let c = known.get(words);
    if (!c) known.set(words, (c = new Color(words)));
    for (let k = 0; k < 3; k++) colours.set([c.r, c.g, c.b], 9 * t + 3 * k);
  });
  geometry.setAttribute('position', new BufferAttribute(of.corners, 3));
  geometry.setAttribute('color', new BufferAttribute(colours, 3));
  // Legends are read against them: they are not shaded.
  return new Mesh(
    geometry,
    new MeshBasicMaterial({
      vertexColors: true,
      polygonOffset: true,
      polygonOffsetFactor: 1,
      polygonOffsetUnits: 1,
    }),
  );
}

function cutFace({ corners, triangles }: Section, colour: string): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(corners, 3));
  geometry.setIndex(new BufferAttribute(triangles, 1));
  return new Mesh(
    geometry,
    new MeshBasicMaterial({ color: new Color(colour).lerp(new Color(PAPER), 0.35), side: DoubleSide }),
  );
}

function fromSegment([x, y]: Point, [x0, y0]: Point, [x1, y1]: Point): number {
  const [dx, dy] = [x1 - x0, y1 - y0],
    n = dx * dx + dy * dy,
    t = n === 0 ? 0 : Math.max(0, Math.min(1, ((x - x0) * dx + (y - y0) * dy) / n));
  return Math.hypot(x - x0 - t * dx, y - y0 - t * dy);
}

/** Points along lines, as segments. */
function lines(rows: readonly Float32Array[], colour: string, opacity: number): LineSegments {
  const pairs: number[] = [];
  for (const row of rows)
    for (let i = 3; i < row.length; i += 3)
      pairs.push(row[i - 3], row[i - 2], row[i - 1], row[i], row[i + 1], row[i + 2]);
  const geometry = new BufferGeometry().setAttribute(
    'position',
    new BufferAttribute(Float32Array.from(pairs), 3),
  );
  return new LineSegments(
    geometry,
    new LineBasicMaterial({ color: colour, transparent: opacity < 1, opacity }),
  );
}

function empty(group: Group): void {
  group.traverse((o: Object3D) => {
    if (!(o instanceof Mesh || o instanceof LineSegments)) return;
    o.geometry.dispose();
    (o.material as Material).dispose();
  });
  group.clear();
}
