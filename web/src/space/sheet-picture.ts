import {
  CanvasTexture,
  Color,
  DoubleSide,
  LinearFilter,
  LinearMipmapLinearFilter,
  Mesh,
  MeshBasicMaterial,
  ShaderMaterial,
  Shape,
  ShapeGeometry,
  NoColorSpace,
  type Group,
} from 'three';
import { boxOfPoints, compose, type Transform } from '@calque/core/geometry';
import type { Underlay } from '@calque/core/model';
import type { Table } from '@/table/table';
import { ringOf } from './scene';

/** Longest side of a sheet's picture, pixels: seen from afar, and from near by. */
const USUAL_PIXELS = 1024,
  MOST_PIXELS = 4096;
/** Paper lets what lies behind it show through, as tracing paper does; ink does not fade with it. */
const PAPER_ALPHA = 0.42;

const VERTEX = `
varying vec2 place;
void main() {
  place = uv;
  gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0);
}`;
/** What is dark is opaque, what is white is not there at all. */
const FRAGMENT = `
uniform sampler2D picture;
uniform float shown;
varying vec2 place;
void main() {
  vec3 c = texture2D(picture, place).rgb;
  float a = 1.0 - min(c.r, min(c.g, c.b));
  if (a < 0.02) discard;
  gl_FragColor = vec4((c - (1.0 - a)) / a, a * shown);
}`;

/** A sheet as it lies in space: its paper, and its ink as a picture that grows sharper when it is looked at from near by. */
export class SheetPicture {
  private readonly canvas = document.createElement('canvas');
  private readonly texture = new CanvasTexture(this.canvas);
  private readonly paper: Mesh;
  private readonly ink: Mesh;
  private readonly box: readonly [number, number, number, number];
  private pixels = 0;

  constructor(
    private readonly table: Table,
    readonly underlay: Underlay,
    parent: Group,
  ) {
    const ring = ringOf(underlay),
      [x0, y0, x1, y1] = (this.box = boxOfPoints(ring)),
      shape = new Shape();
    ring.forEach(([x, y], i) => (i === 0 ? shape.moveTo(x - x0, y - y0) : shape.lineTo(x - x0, y - y0)));
    const geometry = new ShapeGeometry(shape),
      uv = geometry.getAttribute('uv'),
      at = geometry.getAttribute('position');
    for (let i = 0; i < at.count; i++) uv.setXY(i, at.getX(i) / (x1 - x0), at.getY(i) / (y1 - y0));
    // Its figures are shown as they are: paper is not lit.
    this.texture.colorSpace = NoColorSpace;
    this.texture.minFilter = LinearMipmapLinearFilter;
    this.texture.magFilter = LinearFilter;
    this.paper = new Mesh(
      geometry,
      new MeshBasicMaterial({
        color: new Color('#ffffff'),
        transparent: true,
        opacity: PAPER_ALPHA,
        side: DoubleSide,
        depthWrite: false,
      }),
    );
    this.ink = new Mesh(
      geometry,
      new ShaderMaterial({
        vertexShader: VERTEX,
        fragmentShader: FRAGMENT,
        uniforms: { picture: { value: this.texture }, shown: { value: 1 - underlay.fade } },
        transparent: true,
        side: DoubleSide,
        depthWrite: false,
      }),
    );
    for (const mesh of [this.paper, this.ink]) {
      mesh.position.set(x0, y0, 0);
      parent.add(mesh);
    }
    this.ink.renderOrder = 1;
    this.sharpen(USUAL_PIXELS);
  }

  /** Is its picture finer than so many pixels along its longest side? Else it is drawn anew. Says whether it was. */
  sharpen(pixels: number): boolean {
    // Seen edge on, or from within, it has no size.
    if (!Number.isFinite(pixels)) return false;
    const wanted = Math.min(
      MOST_PIXELS,
      Math.max(USUAL_PIXELS, 2 ** Math.ceil(Math.log2(Math.max(1, pixels)))),
    );
    if (wanted === this.pixels) return false;
    this.pixels = wanted;
    const [x0, y0, x1, y1] = this.box,
      k = wanted / Math.max(x1 - x0, y1 - y0);
    this.canvas.width = Math.max(1, Math.round((x1 - x0) * k));
    this.canvas.height = Math.max(1, Math.round((y1 - y0) * k));
    // A texture of another size is another texture.
    this.texture.dispose();
    this.paint();
    return true;
  }

  /** Draws what is known of the sheet by now. */
  paint(): void {
    const context = this.canvas.getContext('2d')!,
      { width, height } = this.canvas,
      [x0, y0, x1] = this.box,
      k = width / (x1 - x0);
    context.setTransform(1, 0, 0, 1, 0, 0);
    context.fillStyle = '#ffffff';
    context.fillRect(0, 0, width, height);
    const screenFromPlane: Transform = [k, 0, 0, -k, -k * x0, height + k * y0];
    this.table.paintSheet(context, this.underlay, compose(screenFromPlane, this.underlay.placement), [
      0,
      0,
      width,
      height,
    ]);
    this.texture.needsUpdate = true;
  }

  close(): void {
    this.texture.dispose();
    this.paper.geometry.dispose();
    for (const mesh of [this.paper, this.ink]) (mesh.material as MeshBasicMaterial).dispose();
  }
}
