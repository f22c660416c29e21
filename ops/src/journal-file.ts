import { mkdirSync } from 'node:fs';
import { createStream, type RotatingFileStream } from 'rotating-file-stream';

/** A journal is begun anew after so much; so many older ones are kept. */
const LARGEST = '10M',
  KEPT = 9;

/** The journal of an installation: what its parts say, a JSON object on each line; older ones lie beside it, compressed. */
export class JournalFile {
  private readonly file: RotatingFileStream;

  constructor(folder: string) {
    mkdirSync(folder, { recursive: true, mode: 0o750 });
    this.file = createStream((index) => (index ? `calque.${index}.log.gz` : 'calque.log'), {
      path: folder,
      size: LARGEST,
      maxFiles: KEPT,
      rotate: KEPT,
      compress: 'gzip',
      mode: 0o640,
    });
    // A full disk: what is said is lost then, and nothing else.
    this.file.on('error', () => {});
    this.file.on('warning', () => {});
  }

  /** Takes lines as they come from a part; one that is no JSON is kept as words. */
  lines(part: string): (data: Buffer) => void {
    let rest = '';
    return (data) => {
      const lines = (rest + data.toString()).split('\n');
      rest = lines.pop()!.slice(-MOST_REST);
      for (const line of lines)
        if (line.trim() !== '')
          this.file.write(`${line.startsWith('{') ? line : this.entry('warn', part, line)}\n`);
    };
  }

  say(level: 'info' | 'warn' | 'error', msg: string): void {
    this.file.write(`${this.entry(level, 'supervisor', msg)}\n`);
  }

  private entry(level: string, part: string, msg: string): string {
    return JSON.stringify({
      level,
      time: new Date().toISOString(),
      part,
      pid: process.pid,
      msg: msg.slice(0, LONGEST),
    });
  }

  close(): Promise<void> {
    return new Promise((resolve) => this.file.end(() => resolve()));
  }
}

const LONGEST = 2000,
  MOST_REST = 64 << 10;
