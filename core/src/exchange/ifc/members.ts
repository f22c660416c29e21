import {
  isSquare,
  joinedFrame,
  reachOf,
  sectionX,
  shapeVolume,
  unit,
  type JoinedFrame,
  type PlacedMember,
  type Shape,
} from '../../framing/index.ts';
import { cross3, dot3, type Frame, type ModelPoint } from '../../geometry/index.ts';
import { meshOfMember } from '../../solids/index.ts';
import {
  cutLength,
  flatSection,
  knownSection,
  memberAxis,
  placingOffset,
  sectionName,
  type KnownSection,
  type Member,
  type MemberRole,
  type Model,
} from '../../model/index.ts';
import type { Written } from './parts.ts';
import type { IfcScope } from './scope.ts';
import { sourceProperties } from './sources.ts';
import { Enum, Int, Typed, type Ref, type StepValue } from '../step/step-text.ts';

type IfcClass = 'IFCBEAM' | 'IFCCOLUMN' | 'IFCMEMBER';

/** Entity and predefined type of what members are for. */
const CLASSES: Readonly<Record<MemberRole, readonly [IfcClass, string]>> = {
  beam: ['IFCBEAM', 'BEAM'],
  joist: ['IFCBEAM', 'JOIST'],
  column: ['IFCCOLUMN', 'COLUMN'],
  brace: ['IFCMEMBER', 'BRACE'],
  rafter: ['IFCMEMBER', 'RAFTER'],
  purlin: ['IFCMEMBER', 'PURLIN'],
  stud: ['IFCMEMBER', 'STUD'],
  member: ['IFCMEMBER', 'MEMBER'],
};
const QUANTITIES: Readonly<Record<IfcClass, string>> = {
  IFCBEAM: 'Qto_BeamBaseQuantities',
  IFCCOLUMN: 'Qto_ColumnBaseQuantities',
  IFCMEMBER: 'Qto_MemberBaseQuantities',
};

/** Openings reach beyond what they cut, so that no skin is left, millimetres. */
const OVER = 0.5;

/** Members of a file with the profiles and materials that they share. */
export class MemberWriter {
  private readonly profiles = new Map<string, Ref>();
  private readonly sets = new Map<string, Ref>();

  readonly joined: JoinedFrame;
  private readonly placed: ReadonlyMap<string, PlacedMember>;

  constructor(
    private readonly scope: IfcScope,
    private readonly model: Model,
  ) {
    this.joined = joinedFrame(model);
    this.placed = new Map(this.joined.members.map((m) => [m.member.id, m]));
  }

  /** A member within a storey of a level; null where its section is in no table. */
  write(e: Member, frame: Frame, storey: { placement: Ref; level: number }): Written | null {
    const section = knownSection(e.section),
      placed = this.placed.get(e.id),
      shape = placed && this.joined.shapes.get(e.id),
      [low, high] = section && shape ? reachOf(section, shape) : [0, cutLength(e)],
      length = high - low;
    if (!section || !(length > 0)) return null;
    const { scope } = this,
      profile = this.profile(section, e.mirrored),
      [type, predefined] = CLASSES[e.role],
      solid = scope.file.add(
        'IFCEXTRUDEDAREASOLID',
        profile,
        this.position(e, section, frame, storey.level, high),
        scope.file.share('IFCDIRECTION', [0, 0, 1]),
        length,
      );
    const ref = scope.file.add(
      type,
      scope.id(e.id),
      null,
      e.mark || sectionName(e),
      null,
      sectionName(e),
      scope.local(storey.placement, [0, 0, 0]),
      shape
        ? this.shaped(solid, placed, section, shape, [low, high], storey.level)
        : scope.shape([solid], 'SweptSolid'),
      e.mark || null,
      new Enum(predefined),
    );
    const written = { ref, name: e.id },
      volume = shape ? shapeVolume(section, shape) : section.figures.area * length,
      mass = (volume * e.density) / 1e9;
    scope.relate('IFCRELASSOCIATESMATERIAL', `${e.id} is of`, [ref], this.usage(e, section, profile));
    scope.quantities(written, QUANTITIES[type], {
      Length: ['length', length],
      CrossSectionArea: ['area', section.figures.area / 1e6],
      OuterSurfaceArea: ['area', (section.figures.perimeter * length) / 1e6],
      NetVolume: ['volume', volume / 1e9],
      NetWeight: ['weight', mass],
    });
    scope.properties(written, 'Calque_Member', {
      Section: sectionName(e),
      Standard: section.standard,
      Holes: shape && shape.holes.length > 0 ? shape.holes.length : null,
      Mass: new Typed('IFCMASSMEASURE', mass),
    });
    sourceProperties(scope, this.model, written, e);
    if (placed && shape) this.drill(written, placed, shape, storey);
    return written;
  }

  /** Bolt holes of a body that is to be edited; one for reference only counts them. */
  private drill(
    written: Written,
    m: PlacedMember,
    { holes }: Shape,
    { placement, level }: { placement: Ref; level: number },
  ): void {
    const { scope } = this;
    if (scope.view === 'reference' || holes.length === 0) return;
    const x = sectionX(m);
    holes.forEach(({ through, x: px, y: py, z, d, depth }, i) => {
      const [way, side] = through === 'web' ? [x, m.up] : [m.up, x],
        [u, v] = through === 'web' ? [px - depth / 2 - OVER, py] : [px, py - depth / 2 - OVER],
        circle = scope.file.share(
          'IFCCIRCLEPROFILEDEF',
          new Enum('AREA'),
          null,
          scope.file.share('IFCAXIS2PLACEMENT2D', scope.point2([0, 0]), null),
          d / 2,
        ),
        at = [0, 1, 2].map(
          (k) => m.from[k] + u * x[k] + v * m.up[k] + z * m.along[k] - (k === 2 ? level : 0),
        ) as unknown as ModelPoint,
        solid = scope.file.add(
          'IFCEXTRUDEDAREASOLID',
          circle,
          scope.placement3(at, way, side),
          scope.file.share('IFCDIRECTION', [0, 0, 1]),
          depth + 2 * OVER,
        ),
        // An opening to each: readers do not all cut several bodies of one.
        ref = scope.file.add(
          'IFCOPENINGELEMENT',
          scope.id(`${written.name} hole ${i}`),
          null,
          'Bolt hole',
          null,
          null,
          scope.local(placement, [0, 0, 0]),
          scope.shape([solid], 'SweptSolid'),
          null,
          new Enum('OPENING'),
        );
      scope.relate('IFCRELVOIDSELEMENT', `${written.name} is drilled ${i}`, written.ref, ref);
    });
  }

  /**
   * Where its section is drawn and which way: profiles are seen against the way in which they are drawn out, so it goes from end to start.
   */
  private position(
    e: Member,
    { b, h }: KnownSection,
    { origin, across, up }: Frame,
    level: number,
    end: number,
  ): Ref {
    const axis = memberAxis(e),
      out = cross3(across, up),
      world = ([x, y, z]: ModelPoint): ModelPoint =>
        [0, 1, 2].map((i) => x * across[i] + y * up[i] + z * out[i]) as unknown as ModelPoint,
      [px, py] = placingOffset(e.point, b, h),
      at = e.back[0] + end,
      middle = world(
        [0, 1, 2].map(
          (i) => axis.from[i] + at * axis.along[i] - px * axis.right[i] - py * axis.up[i],
        ) as unknown as ModelPoint,
      ),
      back = world(axis.along).map((v) => -v) as unknown as ModelPoint;
    return this.scope.placement3(
      [middle[0] + origin[0], middle[1] + origin[1], middle[2] + origin[2] - level],
      back,
      world(axis.right),
    );
  }

  /** A body cut at its ends and coped: by half spaces and boxes where it is to be edited, as it stands for reference. Holes are cut by openings: see drill. */
  private shaped(
    solid: Ref,
    m: PlacedMember,
    section: KnownSection,
    shape: Shape,
    [low, high]: [number, number],
    level: number,
  ): Ref {
    const { scope } = this,
      x = sectionX(m),
      at = (px: number, py: number, z: number): ModelPoint =>
        [0, 1, 2].map(
          (i) => m.from[i] + px * x[i] + py * m.up[i] + z * m.along[i] - (i === 2 ? level : 0),
        ) as unknown as ModelPoint;
    const isSloped = shape.notches.some((n) => !isSquare(shape[n.end]));
    if (scope.view === 'reference' || isSloped) {
      const triangles = meshOfMember(this.model, m.member.id).triangles.map((v, i) =>
        i % 3 === 2 ? v - level : v,
      );
      return scope.shape([scope.triangulated(triangles)], 'Tessellation');
    }
    let body = solid,
      kind = 'SweptSolid';
    for (const end of ['start', 'end'] as const) {
      const cut = shape[end],
        k = end === 'end' ? 1 : -1;
      if (isSquare(cut)) continue;
      const n = unit(
          [0, 1, 2].map((i) => k * (m.along[i] - cut.kx * x[i] - cut.ky * m.up[i])) as unknown as ModelPoint,
        )!,
        // Along the cut: square to its normal.
        side = unit(cross3(n, Math.abs(dot3(n, x)) < 0.9 ? x : m.up))!,
        plane = scope.file.add('IFCPLANE', scope.placement3(at(0, 0, cut.z), n, side)),
        half = scope.file.add('IFCHALFSPACESOLID', plane, false);
      body = scope.file.add('IFCBOOLEANCLIPPINGRESULT', new Enum('DIFFERENCE'), body, half);
      kind = 'Clipping';
    }
    const { h, b } = section;
    for (const { end, side, depth, length } of shape.notches) {
      const out = high - low + 1,
        z0 = end === 'end' ? shape.end.z - length : shape.start.z - out,
        z1 = end === 'end' ? shape.end.z + out : shape.start.z + length,
        [y0, y1] = side === 'top' ? [h / 2 - depth, h / 2 + 1] : [-h / 2 - 1, depth - h / 2],
        box = scope.file.add(
          'IFCEXTRUDEDAREASOLID',
          scope.profile([
            [
              [-b, y0],
              [b, y0],
              [b, y1],
              [-b, y1],
            ],
          ]),
          scope.placement3(at(0, 0, z1), m.along.map((v) => -v) as unknown as ModelPoint, m.right),
          scope.file.share('IFCDIRECTION', [0, 0, 1]),
          z1 - z0,
        );
      body = scope.file.add('IFCBOOLEANRESULT', new Enum('DIFFERENCE'), body, box);
      kind = 'CSG';
    }
    return scope.shape([body], kind);
  }

  private profile(section: KnownSection, mirrored: boolean): Ref {
    const key = `${section.name}${mirrored ? ' mirrored' : ''}`,
      known = this.profiles.get(key);
    if (known) return known;
    const made = this.parametric(section, mirrored) ?? this.outline(section, mirrored);
    this.profiles.set(key, made);
    return made;
  }

  /** A profile by its sizes, where the schema has one; none for what is not alike at its left and right when it is mirrored, nor for sloped flanges, which readers draw each in their own way. */
  private parametric({ name, sizes }: KnownSection, mirrored: boolean): Ref | null {
    if (!sizes || (sizes.slope ?? 0) > 0) return null;
    const { shape, h, b, tw, tf, r, tipRadius = 0, innerRadius = 0 } = sizes,
      isAlike = shape !== 'channel' && shape !== 'angle';
    if (mirrored && !isAlike) return null;
    const perhaps = (v: number) => (v > 0 ? v : null);
    const add = (type: string, ...values: StepValue[]) =>
      this.scope.file.add(
        type,
        new Enum('AREA'),
        name,
        // It may be left out, but readers ask for it.
        this.scope.file.share('IFCAXIS2PLACEMENT2D', this.scope.point2([0, 0]), null),
        ...values,
      );
    switch (shape) {
      case 'I':
        return add('IFCISHAPEPROFILEDEF', b, h, tw, tf, perhaps(r), null, null);
      case 'channel':
        return add('IFCUSHAPEPROFILEDEF', h, b, tw, tf, perhaps(r), perhaps(tipRadius), null);
      case 'angle':
        return add('IFCLSHAPEPROFILEDEF', h, b, tw, perhaps(r), perhaps(tipRadius), null);
      case 'tee':
        return add('IFCTSHAPEPROFILEDEF', h, b, tw, tf, perhaps(r), null, null, null, null);
      case 'rectangular hollow':
        return add('IFCRECTANGLEHOLLOWPROFILEDEF', b, h, tw, perhaps(innerRadius), perhaps(r));
      case 'round hollow':
        return add('IFCCIRCLEHOLLOWPROFILEDEF', h / 2, tw);
      case 'rectangle':
        return add('IFCRECTANGLEPROFILEDEF', b, h);
      case 'round':
        return add('IFCCIRCLEPROFILEDEF', h / 2);
    }
  }

  private outline({ rings }: KnownSection, mirrored: boolean): Ref {
    return this.scope.profile(
      flatSection(rings).map((ring) =>
        mirrored ? [...ring].reverse().map(([x, y]): [number, number] => [-x, y]) : ring,
      ),
    );
  }

  /** Its profile in its material, with the point of it that lies on the line (the cardinal points 1 to 9 of the schema are ours). */
  private usage(e: Member, section: KnownSection, profile: Ref): Ref {
    const key = `${section.name} ${e.mirrored ? 'mirrored ' : ''}${e.material}`;
    let set = this.sets.get(key);
    if (!set) {
      const { file } = this.scope,
        material = this.scope.material(e.material),
        one = file.add('IFCMATERIALPROFILE', section.name, null, material, profile, null, null);
      this.sets.set(key, (set = file.add('IFCMATERIALPROFILESET', section.name, null, [one], null)));
    }
    return this.scope.file.share('IFCMATERIALPROFILESETUSAGE', set, new Int(e.point), null);
  }
}
