import {
  flatSlots,
  joinedFrame,
  onPlate,
  perpendicular,
  type JoinedFrame,
  type PlatePart,
} from '../../framing/index.ts';
import { cross3, type ModelPoint } from '../../geometry/index.ts';
import type { Bar } from '../../kinds/index.ts';
import { sectionName, settingsOf, type Member, type Model } from '../../model/index.ts';
import { boltBars, ownBarsOf } from '../../solids/index.ts';
import { PrismWriter, type Prism } from './prism.ts';
import { DERIVED, Enum, Int, StepFile, stepString, Typed, type Ref } from './step-text.ts';

/** A product of the file with its place among the others: all stand where they stand in the model. */
interface Product {
  definition: Ref;
  shape: Ref;
}

/**
 * The frame of a project as a STEP file (ISO 10303-21, AP214): each member with what is welded to it as an assembly, plates, and the bolts of each
 * pattern; millimetres. Null where there is neither a plate nor a member that has a section. Plates are drilled, their bends flat by 0.05 mm at most; fillets of members are flat by 0.2 mm at most, what is
 * coped is of several solids side by side, and bolt holes are drilled where both faces are flat: not into tubes, nor across the seam of a cope.
 */
export function writeStep(model: Model, given: { at: string }): string | null {
  const frame = joinedFrame(model),
    { name } = settingsOf(model);
  if (!frame.members.some((m) => m.section) && frame.plates.length === 0) return null;
  const writer = new StepWriter(name || 'Frame');
  writer.write(frame);
  return writer.text(given.at);
}

class StepWriter {
  private readonly file = new StepFile();
  private readonly prisms = new PrismWriter(this.file);
  private readonly context: Ref;
  private readonly geometry: Ref;
  /** The one axis to which all is placed. */
  private readonly origin: Ref;

  constructor(private readonly project: string) {
    const { file } = this;
    this.context = file.add('APPLICATION_CONTEXT', 'core data for automotive mechanical design processes');
    file.add(
      'APPLICATION_PROTOCOL_DEFINITION',
      'international standard',
      'automotive_design',
      new Int(2010),
      this.context,
    );
    const mm = file.addComplex(
        ['LENGTH_UNIT'],
        ['NAMED_UNIT', DERIVED],
        ['SI_UNIT', new Enum('MILLI'), new Enum('METRE')],
      ),
      radian = file.addComplex(
        ['NAMED_UNIT', DERIVED],
        ['PLANE_ANGLE_UNIT'],
        ['SI_UNIT', null, new Enum('RADIAN')],
      ),
      steradian = file.addComplex(
        ['NAMED_UNIT', DERIVED],
        ['SI_UNIT', null, new Enum('STERADIAN')],
        ['SOLID_ANGLE_UNIT'],
      ),
      within = file.add(
        'UNCERTAINTY_MEASURE_WITH_UNIT',
        new Typed('LENGTH_MEASURE', 1e-4),
        mm,
        'distance_accuracy_value',
        '',
      );
    this.geometry = file.addComplex(
      ['GEOMETRIC_REPRESENTATION_CONTEXT', new Int(3)],
      ['GLOBAL_UNCERTAINTY_ASSIGNED_CONTEXT', [within]],
      ['GLOBAL_UNIT_ASSIGNED_CONTEXT', [mm, radian, steradian]],
      ['REPRESENTATION_CONTEXT', '', ''],
    );
    this.origin = this.prisms.placement([0, 0, 0], [0, 0, 1], [1, 0, 0]);
  }

  write(frame: JoinedFrame): void {
    // Members and bolts are placed: what they are placed in knows the places.
    const bolts = frame.bolts.map((set) => {
        const side = perpendicular(set.axis);
        return { set, places: set.at.map((p) => this.prisms.placement(p, set.axis, side)) };
      }),
      members = frame.members.flatMap(({ member }) => {
        const own = ownBarsOf(frame, member.id);
        return own ? [{ member, own, place: this.prisms.placement(own.at, own.z, own.x) }] : [];
      }),
      welded = new Map<string, PlatePart[]>();
    for (const p of frame.plates)
      if (p.weldedTo !== null) welded.set(p.weldedTo, [...(welded.get(p.weldedTo) ?? []), p]);
    const root = this.product(
        this.project,
        [],
        [
          ...members.filter((m) => !welded.has(m.member.id)).map((m) => m.place),
          ...bolts.flatMap((b) => b.places),
        ],
      ),
      known = new Map<string, Product>();
    /** What is alike is in the file once. */
    const once = (key: string, make: () => Product): Product => {
      const product = known.get(key) ?? make();
      known.set(key, product);
      return product;
    };
    for (const { member, own, place } of members) {
      const name = nameOf(member),
        part = once(`${name} ${own.key}`, () =>
          this.product(
            name,
            own.bars.map((bar) => ({ ...prismOfBar(bar), cross: own.holes })),
          ),
        ),
        plates = welded.get(member.id);
      if (!plates) {
        this.place(root, part, name, place);
        continue;
      }
      const assembly = this.product(`${name} assembly`, [], [place]);
      this.place(root, assembly, `${name} assembly`);
      this.place(assembly, part, name, place);
      for (const p of plates) this.place(assembly, this.plate(p), p.name);
    }
    for (const p of frame.plates) if (p.weldedTo === null) this.place(root, this.plate(p), p.name);
    for (const { set, places } of bolts) {
      const bolt = once(`bolt ${set.name} ${set.grip}`, () =>
        this.product(set.name, boltBars({ ...set, at: [[0, 0, 0]], axis: [0, 0, 1] }).map(prismOfBar)),
      );
      for (const at of places) this.place(root, bolt, set.name, at);
    }
  }

  private plate(p: PlatePart): Product {
    const place = onPlate(p),
      out = cross3(p.x, p.y),
      rings = [p.outline, ...flatSlots(p)];
    return this.product(p.name, [
      {
        near: rings.map((ring) => ring.map((c) => place(c))),
        far: rings.map((ring) => ring.map((c) => place(c, p.thickness))),
        way: [out[0] * p.thickness, out[1] * p.thickness, out[2] * p.thickness],
        holes: p.holes.map(({ at, d }) => ({ at: place(at), radius: d / 2 })),
        cross: p.angle?.across.map(({ from, to, d }) => ({ from, to, radius: d / 2 })),
      },
    ]);
  }

  /** A product with its solids; without any it is one of others. */
  private product(name: string, solids: readonly Prism[], places: readonly Ref[] = []): Product {
    const { file } = this,
      product = file.add('PRODUCT', name, name, '', [
        file.share('PRODUCT_CONTEXT', '', this.context, 'mechanical'),
      ]),
      formation = file.add('PRODUCT_DEFINITION_FORMATION', '', '', product),
      definition = file.add(
        'PRODUCT_DEFINITION',
        'design',
        '',
        formation,
        file.share('PRODUCT_DEFINITION_CONTEXT', 'part definition', this.context, 'design'),
      ),
      own = file.add('PRODUCT_DEFINITION_SHAPE', '', '', definition),
      shape = file.add(
        solids.length > 0 ? 'ADVANCED_BREP_SHAPE_REPRESENTATION' : 'SHAPE_REPRESENTATION',
        name,
        [this.origin, ...places, ...solids.map((s) => this.prisms.solid(name, s))],
        this.geometry,
      );
    file.add('PRODUCT_RELATED_PRODUCT_CATEGORY', 'part', null, [product]);
    file.add('SHAPE_DEFINITION_REPRESENTATION', own, shape);
    return { definition, shape };
  }

  private placed = 0;
  private place(within: Product, part: Product, name: string, at = this.origin): void {
    const { file } = this,
      use = file.add(
        'NEXT_ASSEMBLY_USAGE_OCCURRENCE',
        String(++this.placed),
        name,
        '',
        within.definition,
        part.definition,
        null,
      ),
      own = file.add('PRODUCT_DEFINITION_SHAPE', '', '', use),
      moved = file.add('ITEM_DEFINED_TRANSFORMATION', '', '', this.origin, at),
      relation = file.addComplex(
        ['REPRESENTATION_RELATIONSHIP', '', '', part.shape, within.shape],
        ['REPRESENTATION_RELATIONSHIP_WITH_TRANSFORMATION', moved],
        ['SHAPE_REPRESENTATION_RELATIONSHIP'],
      );
    file.add('CONTEXT_DEPENDENT_SHAPE_REPRESENTATION', relation, own);
  }

  text(at: string): string {
    return this.file.text([
      `FILE_DESCRIPTION(('frame'),'2;1');`,
      `FILE_NAME(${stepString(`${this.project}.step`)},${stepString(at)},(''),(''),'Calque','Calque','');`,
      `FILE_SCHEMA(('AUTOMOTIVE_DESIGN { 1 0 10303 214 1 1 1 1 }'));`,
    ]);
  }
}

const nameOf = (m: Member): string => [m.mark, sectionName(m)].filter((w) => w !== '').join(' ');

function prismOfBar({ start, far, way }: Bar): Prism {
  return {
    near: start,
    far:
      far ?? start.map((ring) => ring.map(([x, y, z]): ModelPoint => [x + way[0], y + way[1], z + way[2]])),
    way,
  };
}
