import { createServer, type Server } from 'node:http';

/** Answers in the place of a web server that does not come up, so that whoever looks hears why. */
export class StandIn {
  private server: Server | null = null;

  constructor(
    private readonly port: number,
    private readonly address = '127.0.0.1',
  ) {}

  show(why: string): void {
    if (this.server) return;
    const page = `<!doctype html><meta charset="utf-8"><meta http-equiv="refresh" content="5"><title>Calque</title><body style="font:15px/1.5 sans-serif;max-width:40em;margin:4em auto;color:#17273a"><h1 style="font-size:20px">Calque cannot be started at the moment</h1><p>The web server ends again and again. It is tried again by itself; nothing saved is lost.</p><pre style="white-space:pre-wrap">${why.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`)}</pre>`;
    this.server = createServer((_, response) =>
      response
        .writeHead(503, {
          'Content-Type': 'text/html; charset=utf-8',
          'Retry-After': '5',
          'Cache-Control': 'no-store',
          Connection: 'close',
        })
        .end(page),
    );
    this.server.on('error', () => {
      this.server = null;
    });
    this.server.listen(this.port, this.address);
  }

  /** Lets go of the port, so that the web server can be tried again. */
  hide(): void {
    this.server?.close();
    this.server?.closeAllConnections();
    this.server = null;
  }
}
