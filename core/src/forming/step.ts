import { exportSTEP } from 'replicad';
import { wrapped, type Body } from './body.ts';

/** What a STEP file says of a part beside its shape. */
export interface StepWords {
  name: string;
  material: string;
  /** kg/m3. */
  density: number;
  /** 0xRRGGBB */
  colour: number;
  /** ISO date and time. */
  at: string;
}

/** ISO 10303-21 text: other characters by their code units. */
const stepText = (text: string): string =>
  `'${[...text]
    .map((c) => {
      if (c === "'") return "''";
      if (c === '\\') return '\\\\';
      if (c >= ' ' && c <= '~') return c;
      const units = [...Array(c.length).keys()].map((i) =>
        c.charCodeAt(i).toString(16).toUpperCase().padStart(4, '0'),
      );
      return `\\X2\\${units.join('')}\\X0\\`;
    })
    .join('')}'`;
const real = (v: number): string => (Number.isInteger(v) ? `${v}.` : String(v).replace('e', 'E'));

/** A name that the kernel writes as it is, to be put right afterwards: it takes plain letters alone. */
const PLACEHOLDER = 'CalquePartName';

/**
 * A body as STEP (AP242), with its name, colour and material (its name and density as properties of the product, in kilograms and
 * metres). Millimetres.
 */
export async function stepOf(
  body: Body,
  { name, material, density, colour, at }: StepWords,
): Promise<string> {
  const blob = exportSTEP([
    { shape: wrapped(body.shape), name: PLACEHOLDER, color: `#${colour.toString(16).padStart(6, '0')}` },
  ]);
  const text = (await blob.text())
    .replaceAll(`'${PLACEHOLDER}'`, stepText(name))
    .replace(
      /FILE_NAME\([\s\S]*?\);/,
      `FILE_NAME(${stepText(name)},${stepText(at.slice(0, 19))},(''),(''),'Calque','Calque','');`,
    );
  const product = /#(\d+)\s*=\s*PRODUCT_DEFINITION\(/.exec(text)?.[1],
    context = /#(\d+)\s*=\s*\(\s*GEOMETRIC_REPRESENTATION_CONTEXT/.exec(text)?.[1];
  if (product === undefined || context === undefined)
    throw new Error('The kernel wrote a STEP file without a product.');
  let last = Math.max(...[...text.matchAll(/^#(\d+)\s*=/gm)].map((m) => Number(m[1])));
  const lines: string[] = [];
  const add = (words: string): string => {
    lines.push(`#${++last} = ${words};`);
    return `#${last}`;
  };
  const property = (what: string, item: string) => {
    const definition = add(`PROPERTY_DEFINITION('material property',${stepText(what)},#${product})`),
      representation = add(`REPRESENTATION(${stepText(what)},(${item}),#${context})`);
    add(`PROPERTY_DEFINITION_REPRESENTATION(${definition},${representation})`);
  };
  property(
    'material name',
    add(`DESCRIPTIVE_REPRESENTATION_ITEM(${stepText(material)},${stepText(material)})`),
  );
  const kilogram = add('( MASS_UNIT() NAMED_UNIT(*) SI_UNIT(.KILO.,.GRAM.) )'),
    metre = add('( LENGTH_UNIT() NAMED_UNIT(*) SI_UNIT($,.METRE.) )'),
    unit = add(
      `DERIVED_UNIT((${add(`DERIVED_UNIT_ELEMENT(${kilogram},1.)`)},${add(`DERIVED_UNIT_ELEMENT(${metre},-3.)`)}))`,
    );
  property(
    'density',
    add(`MEASURE_REPRESENTATION_ITEM('density measure',NUMERIC_MEASURE(${real(density)}),${unit})`),
  );
  const end = text.lastIndexOf('ENDSEC;');
  return `${text.slice(0, end)}${lines.join('\n')}\n${text.slice(end)}`;
}
