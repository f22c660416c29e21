import {
  AmbientLight,
  DirectionalLight,
  OrthographicCamera,
  PerspectiveCamera,
  Raycaster,
  Scene as ThreeScene,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { facing, type Point } from '@calque/core/geometry';
import type { PlaneEntity } from '@calque/core/model';
import { frameOf, type Outlook } from '@calque/core/planes';

/** The angle that the view takes in from foot to top, seen as by an eye, degrees. */
const ANGLE = 32;
/** Room around what is fitted. */
const MARGIN = 1.12;
/** While it is turned fewer pixels are drawn, where each frame takes longer than this, milliseconds. */
const SLOW_MS = 30,
  COARSE = 0.5,
  COARSEST = 0.33;
/** Less than this between the cards is no room: they lie over the picture, CSS pixels. */
const LEAST_FREE = 300;
/** So long after its last frame a movement has ended, milliseconds. */
const SETTLE_MS = 160;

/** Light from everywhere, and from one side. */
export const AMBIENT = 2,
  SUN = 1.5,
  TO_SUN = new Vector3(-0.45, -0.75, 0.9).normalize();

/** What stands on a turntable, as far as it matters how it is looked at. */
export interface OnTable {
  /** What a view of everything must hold. */
  corners(): readonly Vector3[];
  /** The nearest that a view of everything comes, millimetres. */
  nearest: number;
  /** Is it too much to be drawn whole while it is turned? */
  isLarge(): boolean;
  beforeDraw(): void;
  /** It is drawn coarsely from now on, or finely again. */
  coarse(on: boolean): void;
  /** It has come to rest. */
  settled(): void;
}

/** A picture in three dimensions that is turned about, moved and enlarged; drawn when something has changed, and only then. */
export class Turntable {
  readonly scene = new ThreeScene();
  readonly renderer: WebGLRenderer;
  private readonly eye = new PerspectiveCamera(ANGLE, 1, 10, 1e7);
  private readonly level = new OrthographicCamera(-1, 1, 1, -1, -1e7, 1e7);
  camera: PerspectiveCamera | OrthographicCamera = this.eye;
  private controls: OrbitControls;
  private frame = 0;
  private settling: ReturnType<typeof setTimeout> | undefined;
  private isCoarse = false;
  private slow = false;
  /** Is it drawn by the processor, without a graphics card? */
  private readonly software: boolean;
  /** Has somebody turned, moved or enlarged it? */
  wasHandled = false;
  /** Frames drawn since it was made. */
  frames = 0;

  constructor(
    private readonly canvas: HTMLCanvasElement,
    /** Room that cards take at both sides, CSS pixels. */
    private readonly insets: { left: number; right: number },
    private readonly on: OnTable,
  ) {
    this.software = drawsInSoftware();
    this.renderer = new WebGLRenderer({ canvas, antialias: !this.software, alpha: true });
    this.renderer.localClippingEnabled = true;
    for (const camera of [this.eye, this.level]) camera.up.set(0, 0, 1);
    const sun = new DirectionalLight('#ffffff', SUN);
    sun.position.copy(TO_SUN);
    this.scene.add(new AmbientLight('#ffffff', AMBIENT), sun);
    this.controls = this.makeControls();
  }

  private makeControls(): OrbitControls {
    const controls = new OrbitControls(this.camera, this.canvas);
    controls.zoomToCursor = true;
    controls.addEventListener('start', () => (this.wasHandled = true));
    controls.addEventListener('change', () => this.moved());
    return controls;
  }

  close(): void {
    cancelAnimationFrame(this.frame);
    clearTimeout(this.settling);
    this.controls.dispose();
    this.renderer.dispose();
  }

  get isParallel(): boolean {
    return this.camera === this.level;
  }

  /** From what is looked at to the eye. */
  get towardsEye(): Vector3 {
    return this.camera.position.clone().sub(this.controls.target);
  }

  /** What is looked at stays where it is, though all is told about another origin. */
  shift(by: Vector3): void {
    this.camera.position.add(by);
    this.controls.target.add(by);
  }

  resize(width: number, height: number): void {
    if (width === 0 || height === 0) return;
    this.renderer.setPixelRatio(this.ratio);
    this.renderer.setSize(width, height, false);
    this.eye.aspect = width / height;
    // What is looked at stands in the middle of what the cards leave free.
    const shift =
      width > this.insets.left + this.insets.right + LEAST_FREE
        ? (this.insets.right - this.insets.left) / 2
        : 0;
    for (const camera of [this.eye, this.level]) camera.setViewOffset(width, height, shift, 0, width, height);
    this.eye.updateProjectionMatrix();
    this.spread();
    this.draw();
  }

  /** Of what the cards leave free. */
  private get freeAspect(): number {
    const { width, height } = this.canvas.getBoundingClientRect(),
      free = width - this.insets.left - this.insets.right;
    return height > 0 ? (free > LEAST_FREE ? free : width) / height : 1;
  }

  /** Pixels to one of the screen's own. */
  get ratio(): number {
    if (this.isCoarse) return this.on.isLarge() ? COARSEST : COARSE;
    return Math.min(2, window.devicePixelRatio || 1);
  }

  /** The parallel view takes in what the eye would at the target. */
  private spread(): void {
    const far = this.camera.position.distanceTo(this.controls.target),
      high = far * Math.tan(((ANGLE / 2) * Math.PI) / 180),
      wide = high * this.eye.aspect;
    Object.assign(this.level, { left: -wide, right: wide, top: high, bottom: -high });
    this.level.updateProjectionMatrix();
  }

  setParallel(parallel: boolean): void {
    const next = parallel ? this.level : this.eye;
    if (next === this.camera) return;
    const { target } = this.controls;
    next.position.copy(this.camera.position);
    if (!parallel && this.level.zoom !== 1)
      next.position.sub(target).divideScalar(this.level.zoom).add(target);
    this.level.zoom = 1;
    this.camera = next;
    this.controls.dispose();
    this.controls = this.makeControls();
    this.controls.target.copy(target);
    this.spread();
    this.controls.update();
    this.draw();
  }

  /** Looks at everything from somewhere. */
  look({ round, above }: Outlook): void {
    // Straight from above there is no up: a hair beside it.
    const steep = Math.min(Math.PI / 2 - 1e-4, Math.max(-Math.PI / 2 + 1e-4, above));
    const direction = new Vector3(
      Math.cos(steep) * Math.cos(round),
      Math.cos(steep) * Math.sin(round),
      Math.sin(steep),
    );
    this.fitFrom(direction);
  }

  /** Looks at everything from where one looks now. */
  fit(): void {
    this.fitFrom(this.camera.position.clone().sub(this.controls.target).normalize());
  }

  /** Looks at a plane square on. */
  lookInto(plane: PlaneEntity): void {
    const [x, y, z] = facing(frameOf(plane));
    this.look({ round: Math.atan2(y, x), above: Math.asin(Math.max(-1, Math.min(1, z))) });
  }

  private fitFrom(direction: Vector3): void {
    const corners = this.on.corners();
    if (corners.length === 0) return;
    const middle = corners
      .reduce(([low, high], p): [Vector3, Vector3] => [low.min(p), high.max(p)], [
        corners[0].clone(),
        corners[0].clone(),
      ] as [Vector3, Vector3])
      .reduce((a, b) => a.clone().add(b))
      .divideScalar(2);
    const right = new Vector3().crossVectors(new Vector3(0, 0, 1), direction).normalize();
    if (right.lengthSq() === 0) right.set(1, 0, 0);
    const up = new Vector3().crossVectors(direction, right).normalize(),
      tan = Math.tan(((ANGLE / 2) * Math.PI) / 180) / MARGIN;
    let far = this.on.nearest;
    for (const p of corners) {
      const from = p.clone().sub(middle),
        depth = from.dot(direction);
      far = Math.max(
        far,
        depth + Math.abs(from.dot(up)) / tan,
        depth + Math.abs(from.dot(right)) / (tan * this.freeAspect),
      );
    }
    this.controls.target.copy(middle);
    this.camera.position.copy(middle).addScaledVector(direction, far);
    this.eye.near = far / 1000;
    this.eye.far = far * 100;
    this.eye.updateProjectionMatrix();
    this.level.zoom = 1;
    this.spread();
    this.controls.update();
    this.draw();
  }

  /** Turns about what is looked at, by keys: radians round it and upwards. */
  turn(round: number, above: number): void {
    this.wasHandled = true;
    const from = this.camera.position.clone().sub(this.controls.target),
      far = from.length(),
      now = Math.asin(from.z / far),
      next = Math.min(Math.PI / 2 - 1e-4, Math.max(-Math.PI / 2 + 1e-4, now + above)),
      at = Math.atan2(from.y, from.x) + round;
    this.camera.position
      .set(Math.cos(next) * Math.cos(at), Math.cos(next) * Math.sin(at), Math.sin(next))
      .multiplyScalar(far)
      .add(this.controls.target);
    this.controls.update();
  }

  /** Larger (above 1) or smaller. */
  zoom(by: number): void {
    this.wasHandled = true;
    if (this.camera === this.level) {
      this.level.zoom *= by;
      this.level.updateProjectionMatrix();
    } else this.camera.position.sub(this.controls.target).divideScalar(by).add(this.controls.target);
    this.controls.update();
    this.moved();
  }

  private moved(): void {
    if (this.slow && !this.isCoarse) this.setCoarse(true);
    this.draw();
    clearTimeout(this.settling);
    this.settling = setTimeout(() => {
      if (this.isCoarse) this.setCoarse(false);
      this.on.settled();
      this.draw();
    }, SETTLE_MS);
  }

  private setCoarse(coarse: boolean): void {
    this.isCoarse = coarse;
    this.renderer.setPixelRatio(this.ratio);
    this.on.coarse(coarse);
  }

  /** Draws once before the next picture of the screen, however often it is asked. */
  draw(): void {
    if (this.frame !== 0) return;
    this.frame = requestAnimationFrame(() => {
      this.frame = 0;
      const began = performance.now();
      this.on.beforeDraw();
      this.renderer.render(this.scene, this.camera);
      // Drawn by the processor a frame is done when it is asked for; coarse ones say nothing of whole ones.
      if (!this.isCoarse) this.slow = performance.now() - began > SLOW_MS || this.software;
      this.frames++;
      this.canvas.dataset.frames = String(this.frames);
    });
  }

  /** Where a place shows, CSS pixels of the canvas. */
  onScreen(place: Vector3): Point {
    const { width, height } = this.canvas.getBoundingClientRect(),
      p = place.clone().project(this.camera);
    return [((p.x + 1) / 2) * width, ((1 - p.y) / 2) * height];
  }

  rayAt([x, y]: Point): Raycaster {
    const { width, height } = this.canvas.getBoundingClientRect(),
      ray = new Raycaster();
    ray.setFromCamera(new Vector2((x / width) * 2 - 1, 1 - (y / height) * 2), this.camera);
    return ray;
  }
}

/** Is drawing done by the processor? Asked of a canvas of its own, before the one that is drawn on is made for it. */
function drawsInSoftware(): boolean {
  const context = document.createElement('canvas').getContext('webgl2');
  if (!context) return true;
  const name = context.getExtension('WEBGL_debug_renderer_info')?.UNMASKED_RENDERER_WEBGL ?? context.RENDERER,
    words = String(context.getParameter(name));
  context.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software/i.test(words);
}
