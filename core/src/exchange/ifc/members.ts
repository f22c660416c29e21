import type { Frame, ModelPoint } from '../../geometry/index.ts';
import { cross3 } from '../../geometry/index.ts';
import {
  cutLength,
  flatSection,
  knownSection,
  memberAxis,
  memberMass,
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
import { Enum, Int, Typed, type Ref, type StepValue } from './step-text.ts';

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

/** Members of a file with the profiles and materials that they share. */
export class MemberWriter {
  private readonly profiles = new Map<string, Ref>();
  private readonly sets = new Map<string, Ref>();

  constructor(
    private readonly scope: IfcScope,
    private readonly model: Model,
  ) {}

  /** A member within a storey of a level; null where its section is in no table. */
  write(e: Member, frame: Frame, storey: { placement: Ref; level: number }): Written | null {
    const section = knownSection(e.section),
      length = cutLength(e);
    if (!section || !(length > 0)) return null;
    const { scope } = this,
      profile = this.profile(section, e.mirrored),
      [type, predefined] = CLASSES[e.role],
      solid = scope.file.add(
        'IFCEXTRUDEDAREASOLID',
        profile,
        this.position(e, section, frame, storey.level),
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
      scope.shape([solid], 'SweptSolid'),
      e.mark || null,
      new Enum(predefined),
    );
    const written = { ref, name: e.id },
      mass = memberMass(e)!;
    scope.relate('IFCRELASSOCIATESMATERIAL', `${e.id} is of`, [ref], this.usage(e, section, profile));
    scope.quantities(written, QUANTITIES[type], {
      Length: ['length', length],
      CrossSectionArea: ['area', section.figures.area / 1e6],
      OuterSurfaceArea: ['area', (section.figures.perimeter * length) / 1e6],
      NetVolume: ['volume', (section.figures.area * length) / 1e9],
      NetWeight: ['weight', mass],
    });
    scope.properties(written, 'Calque_Member', {
      Section: sectionName(e),
      Standard: section.standard,
      Mass: new Typed('IFCMASSMEASURE', mass),
    });
    sourceProperties(scope, this.model, written, e);
    return written;
  }

  /**
   * Where its section is drawn and which way: profiles are seen against the way in which they are drawn out, so it goes from end to start.
   */
  private position(e: Member, { b, h }: KnownSection, { origin, across, up }: Frame, level: number): Ref {
    const axis = memberAxis(e),
      out = cross3(across, up),
      world = ([x, y, z]: ModelPoint): ModelPoint =>
        [0, 1, 2].map((i) => x * across[i] + y * up[i] + z * out[i]) as unknown as ModelPoint,
      [px, py] = placingOffset(e.point, b, h),
      at = axis.length - e.back[1],
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
