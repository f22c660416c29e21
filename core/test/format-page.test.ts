import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { FORM } from '@calque/core/formats';
import { ENTITY_SCHEMAS } from '../src/model/schema/entity-schemas.ts';
import { DRAWN_FIELDS } from '../src/kinds/schema.ts';

const page = readFileSync('docs/format.md', 'utf8');
const rowOf = (type: string) => page.split('\n').find((line) => line.startsWith(`| \`${type}\` |`));

it.each(Object.entries(ENTITY_SCHEMAS))(
  'the page of the format describes %s with every field that is stored',
  (type, schema) => {
    const row = rowOf(type);
    expect(row, `docs/format.md has no row for ${type}`).toBeDefined();
    const { fields } = schema as unknown as {
      fields: Record<string, { spec: { optional: boolean; nullable: boolean } }>;
    };
    const isDrawn = Object.keys(DRAWN_FIELDS).every((f) => f in fields);
    for (const [name, field] of Object.entries(fields)) {
      if (name === 'type' || name === 'id' || (isDrawn && name in DRAWN_FIELDS)) continue;
      expect(row, `${type}.${name}`).toContain(`\`${name}\``);
      // What may be absent is said to be.
      if (field.spec.optional && name !== 'known')
        expect(row, `${type}.${name} may be absent`).toContain(`*\`${name}\`*`);
    }
  },
);

it('the page names the form that is written, and what every traced element has', () => {
  expect(page).toContain(`"form": ${FORM}`);
  expect(page).toMatch(new RegExp(`^\\| ${FORM} \\|`, 'm'));
  const [said] = /Every traced element has[^\n]*/.exec(page)!;
  for (const name of Object.keys(DRAWN_FIELDS)) if (name !== 'id') expect(said).toContain(`\`${name}\``);
});
