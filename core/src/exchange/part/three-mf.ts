import { strToU8, zipSync } from 'fflate';
import { welded, type PartSkin } from './skin.ts';

const xml = (text: string): string =>
  text
    .replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f]/g, '');
const figure = (v: number): string => String(Object.is(v, -0) ? 0 : v);
/** Times within the archive are fixed: the same part gives the same file. */
const EPOCH = new Date(1980, 0, 1);

/** A part as 3MF (core specification 1.3), millimetres, in its colour. */
export function writeThreeMf(skin: PartSkin, { name, colour }: { name: string; colour: number }): Uint8Array {
  const { corners, triangles } = welded(skin),
    vertices: string[] = [],
    faces: string[] = [];
  for (let i = 0; i < corners.length; i += 3)
    vertices.push(
      `<vertex x="${figure(corners[i])}" y="${figure(corners[i + 1])}" z="${figure(corners[i + 2])}"/>`,
    );
  for (let i = 0; i < triangles.length; i += 3)
    faces.push(`<triangle v1="${triangles[i]}" v2="${triangles[i + 1]}" v3="${triangles[i + 2]}"/>`);
  const model = [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<model unit="millimeter" xml:lang="en" xmlns="http://schemas.microsoft.com/3dmanufacturing/core/2015/02">',
    `<metadata name="Title">${xml(name)}</metadata><metadata name="Application">Calque</metadata>`,
    '<resources>',
    `<basematerials id="1"><base name="${xml(name)}" displaycolor="#${colour.toString(16).padStart(6, '0').toUpperCase()}"/></basematerials>`,
    `<object id="2" type="model" name="${xml(name)}" pid="1" pindex="0"><mesh><vertices>`,
    ...vertices,
    '</vertices><triangles>',
    ...faces,
    '</triangles></mesh></object></resources>',
    '<build><item objectid="2"/></build></model>',
  ].join('\n');
  const types =
    '<?xml version="1.0" encoding="UTF-8"?>\n<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types">' +
    '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>' +
    '<Default Extension="model" ContentType="application/vnd.ms-package.3dmanufacturing-3dmodel+xml"/></Types>';
  const relations =
    '<?xml version="1.0" encoding="UTF-8"?>\n<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships">' +
    '<Relationship Target="/3D/3dmodel.model" Id="rel0" Type="http://schemas.microsoft.com/3dmanufacturing/2013/01/3dmodel"/></Relationships>';
  return zipSync(
    {
      '[Content_Types].xml': strToU8(types),
      '_rels/.rels': strToU8(relations),
      '3D/3dmodel.model': strToU8(model),
    },
    { level: 6, mtime: EPOCH },
  );
}
