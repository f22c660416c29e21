import type { TopoDS_Shape } from 'replicad-opencascadejs';
import { facesOf, partsOf, type Body } from './body.ts';
import { StepFault } from './fault.ts';
import { inScope, kernel, kernelSays, type Kernel } from './kernel.ts';

/** Larger files take the kernel more memory than a browser gives. */
export const LARGEST_STEP = 60e6;
const MEGABYTE = 1e6;

/** Throws StepFault for a file of more bytes than are read. */
export function refuseLargeStep(bytes: number): void {
  if (bytes > LARGEST_STEP)
    throw new StepFault(
      `Its file has ${Math.ceil(bytes / MEGABYTE)} MB: solids are read from STEP files of up to ${LARGEST_STEP / MEGABYTE} MB. Save the part that matters by itself.`,
    );
}

interface FileSystem {
  writeFile(path: string, bytes: Uint8Array): void;
  unlink(path: string): void;
}

/** How a STEP file begins, behind white space, and how it ends (ISO 10303-21). */
const BEGINS = /^\s*ISO-10303-21\s*;/,
  ENDS = /END-ISO-10303-21\s*;\s*$/;
const HEAD = 200,
  TAIL = 400;
/** What the kernel says where it could read a file. */
const READ = 'RetDone';
let reads = 0;

/**
 * The solids of a STEP file, millimetres whatever its own unit; their faces are called by `id` and their number in it. Throws StepFault for what is no STEP
 * file, was cut short, is too large or holds no solid.
 */
export function bodyOfStep(bytes: Uint8Array, id: string): Body {
  refuseLargeStep(bytes.length);
  const text = new TextDecoder('latin1');
  if (!BEGINS.test(text.decode(bytes.subarray(0, HEAD))))
    throw new StepFault(
      'Its file is no STEP file, whatever its name says: save it as STEP (AP203, AP214 or AP242).',
    );
  if (!ENDS.test(text.decode(bytes.subarray(-TAIL))))
    throw new StepFault(
      'Its STEP file is cut short: it does not end as such files do. Fetch or save it again.',
    );
  const shape = transferred(bytes),
    solids = shape ? partsOf(shape, 'SOLID') : [];
  if (!shape || solids.length === 0)
    throw new StepFault(
      'Its STEP file holds no solid: surfaces and lines alone have no inside. Save it as a solid.',
    );
  return { shape, faces: facesOf(shape).map((face, i) => ({ face, name: `${id}/face:${i + 1}` })) };
}

/** What the kernel makes of a file; null where it can read nothing. */
function transferred(bytes: Uint8Array): TopoDS_Shape | null {
  return inScope((s) => {
    const k = kernel(),
      files = (k as Kernel & { FS: FileSystem }).FS,
      path = `given-${reads++}.step`;
    files.writeFile(`/${path}`, bytes);
    try {
      const reader = s.keep(new k.STEPControl_Reader());
      if (!String(reader.ReadFile(path)).endsWith(READ)) return null;
      reader.TransferRoots(s.keep(new k.Message_ProgressRange()));
      return reader.OneShape();
    } catch (e) {
      if (kernelSays(e) === null) throw e;
      return null;
    } finally {
      files.unlink(`/${path}`);
    }
  });
}
