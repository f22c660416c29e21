import { readFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { Command, CommanderError, InvalidArgumentError, Option } from 'commander';
import { ReadFailure } from '@calque/reader';
import type { CompareFlags } from './compare-command.ts';
import type { ConvertFlags } from './convert-command.ts';
import { readCommand, type ReadFlags } from './read-command.ts';
import { DELIVERED } from './delivered.ts';
import type { DeliverFlags } from './deliver-command.ts';
import type { ScaleFlags } from './scale-command.ts';
import type { SectionsFlags } from './sections-command.ts';
import type { PartFlags } from './part-command.ts';
import type { ProposeFlags } from './propose-command.ts';
import type { TakeoffFlags } from './takeoff-command.ts';
import { UsageError } from './usage-error.ts';

const EXIT = { usage: 2, unreadable: 3, password: 4 } as const;
const DEFAULT_SECONDS = 60;

const positiveInt = (text: string) => {
  if (!/^[1-9]\d*$/.test(text)) throw new InvalidArgumentError('It must be a whole number from 1 up.');
  return Number(text);
};

/** The password that opens a file; what stands in the list of processes is taken from there at once. */
function withPassword<T extends { password?: string; passwordFile?: string }>(flags: T): T {
  if (flags.password !== undefined) process.title = 'calque';
  if (flags.passwordFile === undefined) return flags;
  if (flags.password !== undefined)
    throw new UsageError('Give the password, or the file that it stands in, not both.');
  try {
    return {
      ...flags,
      password: readFileSync(flags.passwordFile === '-' ? 0 : resolve(flags.passwordFile), 'utf8').split(
        /\r?\n/,
      )[0],
    };
  } catch (error) {
    throw new UsageError(`The password file cannot be read: ${(error as Error).message}.`);
  }
}

const program = new Command('calque')
  .description(
    'Reads and converts plan sheets, counts and delivers what was traced on them. `calque start` serves the application, `calque test` runs its tests.',
  )
  .exitOverride()
  .configureOutput({
    writeOut: (text) => process.stdout.write(text),
    writeErr: (text) => process.stderr.write(text),
  });

program
  .command('read <file>')
  .description('what a PDF, a picture (PNG, JPEG, TIFF, WebP) or a drawing (DXF, SVG) holds, page by page')
  .option('--page <n>', 'this page alone', positiveInt)
  .option('--linework', 'with all lines, arcs, circles, edges of fills and texts, in sheet points')
  .option('--all-layers', 'also what lies on layers that are off')
  .option('--password <text>', 'opens a protected file; seen by others in the list of processes')
  .option('--password-file <file>', 'the same from the first line of a file, or from standard input: -')
  .addOption(
    new Option('--units <unit>', 'units of a drawing that does not say them').choices([
      'mm',
      'cm',
      'm',
      'in',
      'ft',
    ]),
  )
  .option('--arrays <file>', 'store the first read page in binary form with its spatial index')
  .option('--seconds <n>', 'time that reading may take', positiveInt, DEFAULT_SECONDS)
  .option('--json', 'as JSON')
  .action(async (file: string, flags: ReadFlags) =>
    print(await readCommand(resolve(file), withPassword(flags))),
  );

program
  .command('convert <file>')
  .description('turns a page into editable linework at true size')
  .requiredOption('--page <n>', 'the page', positiveInt)
  .option('--scale <scale>', '1:100, 1/4" = 1\'-0" or a bare factor')
  .option('--known <dimension>', 'two sheet points and the true length between them: "x0,y0 x1,y1 5250mm"')
  .option('--crop <box>', 'x0,y0,x1,y1 in sheet points')
  .option('--only <parts>', 'of lines,curves,texts,fills')
  .addOption(new Option('--units <unit>', 'units of the DXF').choices(['mm', 'm', 'in', 'ft']).default('mm'))
  .addOption(new Option('--to <format>', 'format').choices(['dxf', 'svg']).makeOptionMandatory())
  .requiredOption('-o, --out <file>', 'file to write')
  .option('--password <text>', 'opens a protected file; seen by others in the list of processes')
  .option('--password-file <file>', 'the same from the first line of a file, or from standard input: -')
  .option('--seconds <n>', 'time that reading may take', positiveInt, DEFAULT_SECONDS)
  .option('--json', 'say what was written as JSON')
  // Exporters are loaded only when they are asked for.
  .action(async (file: string, flags: ConvertFlags) =>
    print(
      await (
        await import('./convert-command.ts')
      ).convertCommand(resolve(file), { ...withPassword(flags), out: resolve(flags.out) }),
    ),
  );

program
  .command('compare <old> <new>')
  .description(
    'lays an old issue of a page onto a new one by their lines, and tells what was added and what is gone',
  )
  .option('--page <n>', 'page of the old file', positiveInt, 1)
  .option('--new-page <n>', 'page of the new file, where it is another', positiveInt)
  .option('--password <text>', 'opens protected files; seen by others in the list of processes')
  .option('--password-file <file>', 'the same from the first line of a file, or from standard input: -')
  .option('--seconds <n>', 'time that reading each file may take', positiveInt, DEFAULT_SECONDS)
  .option('--json', 'as JSON, lines in sheet points of the new page')
  .action(async (older: string, newer: string, flags: CompareFlags) =>
    print(
      await (
        await import('./compare-command.ts')
      ).compareCommand(resolve(older), resolve(newer), withPassword(flags)),
    ),
  );

program
  .command('scale <file>')
  .description('reads the printed dimensions and tells the scales that they agree on')
  .option('--page <n>', 'this page alone', positiveInt)
  .option('--no-recognise', 'do not recognise figures that are drawn as outlines or pixels')
  .addOption(
    new Option('--units <unit>', 'what figures without a unit are in')
      .choices(['mm', 'cm', 'm', 'in', 'ft', 'auto'])
      .default('auto'),
  )
  .option('--password <text>', 'opens a protected file; seen by others in the list of processes')
  .option('--password-file <file>', 'the same from the first line of a file, or from standard input: -')
  .option('--seconds <n>', 'time that reading may take', positiveInt, DEFAULT_SECONDS)
  .option('--json', 'as JSON, points in sheet points')
  .action(async (file: string, flags: ScaleFlags) =>
    print(await (await import('./scale-command.ts')).scaleCommand(resolve(file), withPassword(flags))),
  );

program
  .command('propose <file>')
  .description('tells what a page to scale shows: walls, openings, rooms, columns, grid lines, levels')
  .option('--page <n>', 'the page', positiveInt, 1)
  .option('--view <n>', 'one of several views of the page, as `scale` counts them', positiveInt)
  .option('--scale <scale>', '1:100, 1/4" = 1\'-0" or a bare factor; else its printed dimensions tell it')
  .option('--password <text>', 'opens a protected file; seen by others in the list of processes')
  .option('--password-file <file>', 'the same from the first line of a file, or from standard input: -')
  .option('--seconds <n>', 'time that reading may take', positiveInt, DEFAULT_SECONDS)
  .option('--json', 'as JSON, places in sheet points, lengths in millimetres')
  .action(async (file: string, flags: ProposeFlags) =>
    print(await (await import('./propose-command.ts')).proposeCommand(resolve(file), withPassword(flags))),
  );

program
  .command('takeoff <package>')
  .description('counts what has been traced in a .calque package: storeys, rooms, walls, openings')
  .option('--json', 'as JSON: lengths in millimetres, areas in square, volumes in cubic metres')
  .action(async (file: string, flags: TakeoffFlags) =>
    print(await (await import('./takeoff-command.ts')).takeoffCommand(resolve(file), flags)),
  );

program
  .command('part <package>')
  .description('makes a part of a .calque package and tells its mass, holes, printed figures, doubts, cost')
  .option('--part <name>', 'which, where there are several')
  .option('--json', 'as JSON: millimetres, kilograms')
  .action(async (file: string, flags: PartFlags) =>
    print(await (await import('./part-command.ts')).partCommand(resolve(file), flags)),
  );

program
  .command('sections')
  .description('lists the sections of the published tables, or those that answer what is asked')
  .option('--find <text>', 'a name or part of one, a shape, a standard; "180 high", "under 30 kg/m"')
  .option('--json', 'as JSON: millimetres, areas cm2, moments cm4, mass kg/m, surface m2/m')
  .action(async (flags: SectionsFlags) =>
    print((await import('./sections-command.ts')).sectionsCommand(flags)),
  );

program
  .command('deliver <package>')
  .description('writes what has been traced in a .calque package in an open format')
  .addOption(new Option('--to <format>', 'format').choices([...DELIVERED]).makeOptionMandatory())
  .option('--storey <name>', 'this storey alone')
  .option('--part <name>', 'a part: as STEP, STL, 3MF, glTF (glb), or its largest flat face as DXF')
  .option('--scale <scale>', 'of an SVG or PDF: 1:50, 1/4" = 1\'-0"', '1:100')
  .addOption(new Option('--units <unit>', 'units of the DXF').choices(['mm', 'm', 'in', 'ft']).default('mm'))
  .option('--drawing <name>', 'a ready drawing of the package, by its name or number: as PDF or SVG')
  .option('--paper <paper>', 'of a PDF: A4 to A0, letter …; else the smallest metric one on which it fits')
  .addOption(
    new Option('--view <view>', 'an IFC to look at, or to be edited further')
      .choices(['reference', 'editable'])
      .default('editable'),
  )
  .requiredOption('-o, --out <file>', 'file to write; of NC and plates the folder')
  .action(async (file: string, flags: DeliverFlags) =>
    print(
      await (
        await import('./deliver-command.ts')
      ).deliverCommand(resolve(file), { ...flags, out: resolve(flags.out) }),
    ),
  );

function print(text: string): void {
  process.stdout.write(text.endsWith('\n') || text === '' ? text : `${text}\n`);
}

try {
  await program.parseAsync();
} catch (error) {
  if (error instanceof CommanderError) process.exitCode = error.exitCode === 0 ? 0 : EXIT.usage;
  else {
    process.stderr.write(`calque: ${error instanceof Error ? error.message : String(error)}\n`);
    process.exitCode =
      error instanceof UsageError
        ? EXIT.usage
        : error instanceof ReadFailure && error.code === 'password'
          ? EXIT.password
          : EXIT.unreadable;
  }
}
