import { SaxesParser, type SaxesTagPlain } from 'saxes';
import {
  applyTransform,
  compose,
  determinant,
  meanScale,
  TAU,
  turnOf,
  type Point,
  type Transform,
} from '../../geometry/index.ts';
import { CLOSE, Verb } from '../../linework/page-objects.ts';
import type { SceneStyle, Scene, SceneItem } from '../scene/scene.ts';
import { parsePathData } from './path-data.ts';
import {
  declarations,
  readColour,
  readLength,
  readTransform,
  stylesheet,
  type Declarations,
} from './style.ts';

export class SvgError extends Error {
  constructor(
    message: string,
    readonly tooLarge = false,
  ) {
    super(message);
  }
}

/** CSS pixel, 1/96 inch. */
export const MM_PER_PX = 25.4 / 96;
const DEEPEST_USE = 16,
  DEEPEST_ELEMENT = 500;
/** Elements made by one `use` after another, together: a small file may ask for billions. */
const MOST_ELEMENTS = 2e6,
  MOST_POINTS = 2e7;
/** Dashes of one line. */
const MOST_DASHES = 32;

interface Element {
  name: string;
  attributes: Record<string, string>;
  children: Element[];
  text: string;
}

/** What an element hands down to those inside it (SVG 1.1, property index). */
interface Style {
  at: Transform;
  fill: number | null;
  stroke: number | null;
  width: number;
  dash: readonly number[];
  evenOdd: boolean;
  size: number;
  anchor: string;
  layer: number;
  hidden: boolean;
  currentColour: number;
}

/** Reads the shapes of an SVG. Scripts are never run, links outside the file never followed: they are counted as not understood. */
export function readSvg(source: string): Scene {
  const root = parse(source);
  return new SvgReader(root).scene();
}

function parse(source: string): Element {
  const parser = new SaxesParser();
  const stack: Element[] = [];
  let root: Element | null = null;
  parser.on('opentag', (tag: SaxesTagPlain) => {
    const element: Element = {
      name: tag.name.replace(/^.*:/, ''),
      attributes: tag.attributes as Record<string, string>,
      children: [],
      text: '',
    };
    if (stack.length > 0) stack[stack.length - 1].children.push(element);
    else root ??= element;
    if (stack.push(element) > DEEPEST_ELEMENT)
      throw new SvgError('elements within elements, deeper than in any drawing');
  });
  parser.on('closetag', () => void stack.pop());
  const words = (text: string) => {
    if (stack.length === 0) return;
    const top = stack[stack.length - 1];
    top.text += text;
    // Words between tags keep their place among the children.
    if (text.trim() !== '' && (top.name === 'text' || top.name === 'tspan'))
      top.children.push({ name: '#text', attributes: {}, children: [], text });
  };
  parser.on('text', words);
  parser.on('cdata', words);
  parser.on('error', (error: Error) => {
    throw new SvgError(error.message);
  });
  parser.write(source).close();
  const found = root as Element | null;
  if (found?.name !== 'svg') throw new SvgError('no svg element');
  return found;
}

class SvgReader {
  private readonly items: SceneItem[] = [];
  private readonly layers: string[] = [];
  private readonly unknown: Record<string, number> = {};
  private readonly byId = new Map<string, Element>();
  private readonly rules: ReturnType<typeof stylesheet>;
  private made = 0;
  private points = 0;
  private readonly layerIndex = new Map<string, number>();

  constructor(private readonly root: Element) {
    const sheets: string[] = [];
    const visit = (e: Element) => {
      if (e.attributes.id && !this.byId.has(e.attributes.id)) this.byId.set(e.attributes.id, e);
      if (e.name === 'style') sheets.push(e.text);
      e.children.forEach(visit);
    };
    visit(root);
    this.rules = stylesheet(sheets.join('\n'));
  }

  scene(): Scene {
    const { attributes } = this.root;
    const box = attributes.viewBox
      ?.trim()
      .split(/[\s,]+/)
      .map(Number);
    const view = box?.length === 4 && box.every(Number.isFinite) && box[2] > 0 && box[3] > 0 ? box : null;
    const width = readLength(attributes.width, null) ?? view?.[2] ?? null,
      height = readLength(attributes.height, null) ?? view?.[3] ?? null;
    const unit = view && width !== null ? width / view[2] : 1;
    const [vx, vy, vw, vh] = view ?? [0, 0, width ?? 0, height ?? 0];
    // y goes down in the file and up on the sheet.
    const at: Transform = [unit, 0, 0, -unit, -vx * unit, (vy + vh) * unit];
    const style: Style = {
      at,
      fill: 0,
      stroke: null,
      width: 1,
      dash: [],
      evenOdd: false,
      size: 16,
      anchor: 'start',
      layer: -1,
      hidden: false,
      currentColour: 0,
    };
    for (const child of this.root.children) this.visit(child, this.inherit(this.root, style, true), 1, 0);
    return {
      items: this.items,
      layers: this.layers.map((name) => ({ name, on: true })),
      millimetresPerUnit: MM_PER_PX,
      unknown: this.unknown,
      hatches: 0,
      ...(vw > 0 && vh > 0 && { page: [0, 0, vw * unit, vh * unit] as const }),
    };
  }

  private declared(e: Element): Declarations {
    const { attributes } = e;
    return {
      ...attributes,
      ...this.rules(e.name, attributes.class, attributes.id),
      ...declarations(attributes.style ?? ''),
    };
  }

  private inherit(e: Element, within: Style, isRoot = false): Style {
    const d = this.declared(e);
    const currentColour = readColour(d.color, within.currentColour) ?? within.currentColour;
    const paint = (value: string | undefined, inherited: number | null): number | null => {
      if (value === undefined || value === 'inherit') return inherited;
      if (value === 'none' || value === 'transparent') return null;
      // Gradients and patterns are painted as what stands for them, or grey.
      if (value.startsWith('url('))
        return readColour(value.replace(/^url\([^)]*\)\s*/, ''), currentColour) ?? 0x808080;
      return readColour(value, currentColour) ?? inherited;
    };
    const opaque = (value: string | undefined) => value === undefined || parseFloat(value) > 0;
    const fill = opaque(d['fill-opacity']) ? paint(d.fill, within.fill) : null,
      stroke = opaque(d['stroke-opacity']) ? paint(d.stroke, within.stroke) : null;
    const dash = d['stroke-dasharray'];
    return {
      at: isRoot ? within.at : compose(within.at, readTransform(d.transform)),
      fill,
      stroke,
      width: readLength(d['stroke-width'], within.size) ?? within.width,
      dash:
        dash === undefined
          ? within.dash
          : dash === 'none'
            ? []
            : dash
                .trim()
                .split(/[\s,]+/)
                .map((v) => readLength(v, within.size) ?? 0)
                .filter((v) => v >= 0)
                .slice(0, MOST_DASHES),
      evenOdd: d['fill-rule'] === undefined ? within.evenOdd : d['fill-rule'] === 'evenodd',
      size: readLength(d['font-size'], within.size) ?? within.size,
      anchor: d['text-anchor'] ?? within.anchor,
      layer: within.layer,
      hidden:
        within.hidden ||
        d.display === 'none' ||
        d.visibility === 'hidden' ||
        d.visibility === 'collapse' ||
        !opaque(d.opacity),
      currentColour,
    };
  }

  private visit(e: Element, within: Style, depth: number, uses: number): void {
    if (++this.made > MOST_ELEMENTS) throw new SvgError('more elements than can be drawn', true);
    if (SILENT.has(e.name)) return;
    const style = this.inherit(e, within);
    if (style.hidden) return;
    switch (e.name) {
      case 'g':
      case 'a':
      case 'switch': {
        // Named groups just below the root are the drawing's layers.
        const name = depth === 1 ? layerName(e) : null;
        const inside = name === null ? style : { ...style, layer: this.layerOf(name) };
        for (const child of e.children) this.visit(child, inside, depth + 1, uses);
        return;
      }
      case 'svg': {
        const dx = readLength(e.attributes.x, style.size) ?? 0,
          dy = readLength(e.attributes.y, style.size) ?? 0;
        const inside = { ...style, at: compose(style.at, [1, 0, 0, 1, dx, dy]) };
        for (const child of e.children) this.visit(child, inside, depth + 1, uses);
        return;
      }
      case 'use':
        this.use(e, style, depth, uses);
        return;
      case 'text':
        this.words(e, style, { x: 0, y: 0 });
        return;
      default:
        if (!this.shape(e, style)) this.unknown[e.name] = (this.unknown[e.name] ?? 0) + 1;
    }
  }

  private layerOf(name: string): number {
    let at = this.layerIndex.get(name);
    if (at === undefined) this.layerIndex.set(name, (at = this.layers.push(name) - 1));
    return at;
  }

  private use(e: Element, style: Style, depth: number, uses: number): void {
    const link = e.attributes.href ?? e.attributes['xlink:href'] ?? '';
    const target = link.startsWith('#') ? this.byId.get(link.slice(1)) : undefined;
    if (!target || uses >= DEEPEST_USE) {
      this.unknown[link.startsWith('#') ? 'use' : 'use (outside link)'] =
        (this.unknown[link.startsWith('#') ? 'use' : 'use (outside link)'] ?? 0) + 1;
      return;
    }
    const dx = readLength(e.attributes.x, style.size) ?? 0,
      dy = readLength(e.attributes.y, style.size) ?? 0;
    const inside = { ...style, at: compose(style.at, [1, 0, 0, 1, dx, dy]) };
    if (target.name === 'symbol')
      for (const child of target.children)
        this.visit(child, this.inherit(target, inside), depth + 1, uses + 1);
    else this.visit(target, inside, depth + 1, uses + 1);
  }

  private shape(e: Element, style: Style): boolean {
    const n = (key: string) => readLength(e.attributes[key], style.size) ?? 0;
    switch (e.name) {
      case 'line':
        this.path(
          style,
          [Verb.move, Verb.line],
          [
            [n('x1'), n('y1')],
            [n('x2'), n('y2')],
          ],
          false,
        );
        return true;
      case 'polyline':
      case 'polygon': {
        const values = (e.attributes.points ?? '')
          .trim()
          .split(/[\s,]+/)
          .map(Number)
          .filter(Number.isFinite);
        const points = Array.from({ length: values.length >> 1 }, (_, i): Point => [
          values[2 * i],
          values[2 * i + 1],
        ]);
        if (points.length > 1)
          this.path(
            style,
            points.map(
              (_, i) =>
                (i === 0 ? Verb.move : Verb.line) |
                (e.name === 'polygon' && i === points.length - 1 ? CLOSE : 0),
            ),
            points,
            true,
          );
        return true;
      }
      case 'rect':
        this.rectangle(e, style, n);
        return true;
      case 'circle':
        this.ellipse(style, n('cx'), n('cy'), n('r'), n('r'));
        return true;
      case 'ellipse':
        this.ellipse(style, n('cx'), n('cy'), n('rx'), n('ry'));
        return true;
      case 'path': {
        const { verbs, points } = parsePathData(e.attributes.d ?? '');
        if (points.length > 0) this.path(style, verbs, points, true);
        return true;
      }
      default:
        return false;
    }
  }

  private rectangle(e: Element, style: Style, n: (key: string) => number): void {
    const [x, y, w, h] = [n('x'), n('y'), n('width'), n('height')];
    if (w <= 0 || h <= 0) return;
    const given = (key: string) => (e.attributes[key] === undefined ? null : n(key));
    const rx = Math.min(w / 2, given('rx') ?? given('ry') ?? 0),
      ry = Math.min(h / 2, given('ry') ?? given('rx') ?? 0);
    if (rx <= 0 || ry <= 0) {
      this.path(
        style,
        [Verb.move, Verb.line, Verb.line, Verb.line | CLOSE],
        [
          [x, y],
          [x + w, y],
          [x + w, y + h],
          [x, y + h],
        ],
        true,
      );
      return;
    }
    const { verbs, points } = parsePathData(
      `M${x + rx} ${y}H${x + w - rx}A${rx} ${ry} 0 0 1 ${x + w} ${y + ry}V${y + h - ry}A${rx} ${ry} 0 0 1 ${x + w - rx} ${y + h}H${x + rx}A${rx} ${ry} 0 0 1 ${x} ${y + h - ry}V${y + ry}A${rx} ${ry} 0 0 1 ${x + rx} ${y}Z`,
    );
    this.path(style, verbs, points, true);
  }

  private ellipse(style: Style, cx: number, cy: number, rx: number, ry: number): void {
    if (rx <= 0 || ry <= 0) return;
    const even =
      Math.abs(Math.hypot(style.at[0], style.at[1]) - Math.hypot(style.at[2], style.at[3])) <
        1e-9 * meanScale(style.at) &&
      Math.abs(style.at[0] * style.at[2] + style.at[1] * style.at[3]) <
        1e-9 * Math.abs(determinant(style.at));
    if (rx === ry && even && style.stroke !== null) {
      const [x, y] = applyTransform(style.at, [cx, cy]);
      this.items.push({
        type: 'round',
        style: this.styleOf(style),
        cx: x,
        cy: y,
        r: rx * meanScale(style.at),
        start: 0,
        end: TAU,
      });
      if (style.fill !== null) this.ellipsePath({ ...style, stroke: null }, cx, cy, rx, ry);
    } else this.ellipsePath(style, cx, cy, rx, ry);
  }

  private ellipsePath(style: Style, cx: number, cy: number, rx: number, ry: number): void {
    const { verbs, points } = parsePathData(
      `M${cx + rx} ${cy}A${rx} ${ry} 0 0 1 ${cx - rx} ${cy}A${rx} ${ry} 0 0 1 ${cx + rx} ${cy}Z`,
    );
    this.path(style, verbs, points, true);
  }

  private path(style: Style, verbs: number[], points: Point[], mayFill: boolean): void {
    const fills = mayFill && style.fill !== null,
      rule = style.evenOdd ? 'evenodd' : 'nonzero';
    if (!fills && style.stroke === null) return;
    if ((this.points += points.length) > MOST_POINTS)
      throw new SvgError('more points than can be drawn', true);
    this.items.push({
      type: 'path',
      style: this.styleOf(style),
      verbs,
      points: points.map((p) => applyTransform(style.at, p)),
      stroke: style.stroke !== null,
      fill: fills ? rule : 'none',
      fillColour: style.fill ?? 0,
    });
  }

  private styleOf(style: Style): SceneStyle {
    const k = meanScale(style.at);
    return {
      layer: style.layer,
      colour: style.stroke ?? style.fill ?? 0,
      width: style.width * k,
      dash: style.dash.map((v) => v * k),
    };
  }

  private words(e: Element, style: Style, pen: { x: number; y: number }): void {
    const first = (key: string) => {
      const v = e.attributes[key]?.trim().split(/[\s,]+/)[0];
      return v === undefined ? null : readLength(v, style.size);
    };
    pen.x = first('x') ?? pen.x;
    pen.y = first('y') ?? pen.y;
    pen.x += first('dx') ?? 0;
    pen.y += first('dy') ?? 0;
    for (const child of e.children) {
      if (child.name === 'tspan') this.words(child, this.inherit(child, style), pen);
      else if (child.name === '#text') {
        const text = child.text.replace(/\s+/g, ' ').trim();
        const width = 0.55 * style.size * text.length;
        const x = pen.x - (style.anchor === 'middle' ? width / 2 : style.anchor === 'end' ? width : 0);
        if (text !== '' && (style.fill !== null || style.stroke !== null)) {
          const [px, py] = applyTransform(style.at, [x, pen.y]);
          const k = meanScale(style.at);
          this.items.push({
            type: 'text',
            style: { ...this.styleOf(style), colour: style.fill ?? style.stroke ?? 0 },
            text,
            x: px,
            y: py,
            height: style.size * k,
            width: width * k,
            radians: turnOf(style.at),
          });
        }
        pen.x += width;
      }
    }
  }
}

/** Elements that draw nothing themselves. */
const SILENT = new Set([
  'defs',
  'title',
  'desc',
  'metadata',
  'style',
  'symbol',
  'clipPath',
  'mask',
  'marker',
  'pattern',
  'linearGradient',
  'radialGradient',
  'filter',
  'view',
  'namedview',
  'cursor',
  'animate',
  'animateTransform',
  'set',
]);

function layerName(e: Element): string | null {
  const title = e.children.find((c) => c.name === 'title')?.text.trim();
  const label = Object.entries(e.attributes).find(
    ([key]) => key === 'label' || key.endsWith(':label') || key === 'aria-label',
  )?.[1];
  return label || title || e.attributes.id || null;
}
