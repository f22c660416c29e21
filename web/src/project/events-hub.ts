import type { Notice } from './wire';

/** What a page hears: a notice of its project, and that the stream is open (again), so that what came meanwhile is asked for. */
export interface NoticeListener {
  notice(notice: Notice): void;
  open(): void;
}

/** What tabs say to each other. */
type Said =
  | { type: 'who' }
  | { type: 'want'; projectId: string }
  | { type: 'notice'; notice: Notice }
  | { type: 'open' };

const CHANNEL = 'calque-events',
  LOCK = 'calque-events';
/** Projects that come at once are put into one stream; how often those are left out that no tab wants any more. */
const GATHER_MS = 60,
  PRUNE_MS = 60000;
/** One stream tells of so many; more projects are not open at once in one browser. */
const MOST_PROJECTS = 100;
/** A stream that the server refused is asked for again after so long. */
const AGAIN_MS = 2000;

/**
 * Notices of a project. A browser allows six connections to a server, and each stream takes one: so one tab holds the stream for all
 * (whichever has the lock) and tells the others; when it goes, the next takes over. Where a browser has no locks, each tab has its own.
 */
export function listenTo(projectId: string, listener: NoticeListener): () => void {
  if (!globalThis.navigator?.locks || typeof BroadcastChannel === 'undefined') {
    const stream = new NoticeStream(listener);
    stream.follow([projectId]);
    return () => stream.close();
  }
  const channel = new BroadcastChannel(CHANNEL);
  const say = (said: Said) => channel.postMessage(said);
  const hear: NoticeListener = {
    notice: (n) => {
      if (n.projectId === projectId) listener.notice(n);
    },
    open: () => listener.open(),
  };
  let leading: Leader | null = null;
  channel.onmessage = ({ data: said }: MessageEvent<Said>) => {
    if (said.type === 'who') say({ type: 'want', projectId });
    else if (said.type === 'want') leading?.want(said.projectId);
    else if (said.type === 'notice') hear.notice(said.notice);
    else hear.open();
  };
  const closed = new AbortController();
  void navigator.locks
    .request(
      LOCK,
      { signal: closed.signal },
      () =>
        new Promise<void>((release) => {
          leading = new Leader(projectId, hear, say);
          closed.signal.addEventListener('abort', () => {
            leading?.close();
            release();
          });
        }),
    )
    .catch(() => {});
  say({ type: 'want', projectId });
  return () => {
    closed.abort();
    channel.close();
  };
}

/** The tab that holds the stream. */
class Leader {
  private wanted: Set<string>;
  private readonly stream: NoticeStream;
  private gathering: ReturnType<typeof setTimeout> | null = null;
  private readonly pruning: ReturnType<typeof setInterval>;

  constructor(
    private readonly own: string,
    hear: NoticeListener,
    private readonly say: (said: Said) => void,
  ) {
    this.wanted = new Set([own]);
    this.stream = new NoticeStream({
      notice: (notice) => {
        hear.notice(notice);
        say({ type: 'notice', notice });
      },
      open: () => {
        hear.open();
        say({ type: 'open' });
      },
    });
    this.ask();
    this.pruning = setInterval(() => {
      this.wanted = new Set([own]);
      this.ask();
    }, PRUNE_MS);
  }

  want(projectId: string): void {
    this.wanted.add(projectId);
    this.gather();
  }

  private ask(): void {
    this.say({ type: 'who' });
    this.gather();
  }

  private gather(): void {
    this.gathering ??= setTimeout(() => {
      this.gathering = null;
      this.stream.follow(
        [this.own, ...[...this.wanted].filter((id) => id !== this.own).sort()].slice(0, MOST_PROJECTS),
      );
    }, GATHER_MS);
  }

  close(): void {
    clearInterval(this.pruning);
    if (this.gathering) clearTimeout(this.gathering);
    this.stream.close();
  }
}

/** A stream of the server that is opened again whenever it ends. */
class NoticeStream {
  private source: EventSource | null = null;
  private following = '';
  private again: ReturnType<typeof setTimeout> | null = null;

  constructor(private readonly listener: NoticeListener) {}

  follow(projectIds: readonly string[]): void {
    const list = projectIds.join(',');
    if (list === this.following) return;
    this.following = list;
    this.connect();
  }

  private connect(): void {
    this.close();
    const source = new EventSource(`/api/events?projects=${this.following}`);
    source.onmessage = (event: MessageEvent<string>) =>
      this.listener.notice(JSON.parse(event.data) as Notice);
    source.onopen = () => this.listener.open();
    source.onerror = () => {
      // The browser tries again by itself unless it was refused.
      if (source === this.source && source.readyState === EventSource.CLOSED)
        this.again = setTimeout(() => this.connect(), AGAIN_MS);
    };
    this.source = source;
  }

  close(): void {
    if (this.again) clearTimeout(this.again);
    this.source?.close();
    this.source = null;
  }
}
