import { get, ofType, type Model } from '@calque/core/model';
import type { Touched } from '@calque/core/snapping';
import type { InkCache } from './ink-cache';
import type { LineworkCache } from './linework-cache';
import type { LookCache } from './look-cache';
import { findSnaps, foundWords, type Found } from './snapping';
import type { TableState } from './state';
import type { Pick, Tool } from './tool';
import { Touches } from './touches';
import type { TraceCache } from './trace-cache';
import { toPlane } from './viewport';
import { viewEdgesOf, type SolidEdges } from './view-edges';

/** Where picks look, as it is now. */
export interface PickGround {
  readonly model: Model;
  readonly sheets: LineworkCache;
  readonly looks: LookCache;
  readonly traces: TraceCache;
  readonly inks: InkCache;
  readonly state: TableState;
  readonly tool: Tool;
  readonly ghostIds: readonly string[];
  /** Edges of the solid of a part on one of its planes. */
  readonly solidEdges: SolidEdges | null;
}

/** What the pointer finds: the things under it, which of them is meant, and what it has touched before. */
export class Picking {
  candidates: readonly Found[] = [];
  last: Pick | null = null;
  private chosen = 0;
  private readonly touches: Touches;

  constructor(
    private readonly ground: () => PickGround,
    private readonly onPick: (pick: Pick) => void,
    onTouch: () => void,
  ) {
    this.touches = new Touches(() => {
      const { tool, state } = this.ground();
      return {
        found: tool.snaps ? this.candidates[this.chosen] : undefined,
        others: this.candidates,
        scale: state.view.scale,
      };
    }, onTouch);
  }

  get touched(): readonly Touched[] {
    return this.touches.list;
  }

  /** Another tool is in hand: nothing is found for it yet. */
  drop(): void {
    this.candidates = [];
    this.touches.clear();
  }

  /** Looks again at what lies under the cursor. */
  again(): void {
    if (this.last) this.moveTo(this.last.screen, this.last.shift, this.last.alt);
  }

  /** The pointer has come to a place on the screen: what lies there is found. */
  moveTo(screen: [number, number], shift: boolean, alt: boolean): void {
    const { model, sheets, looks, traces, inks, state, tool, ghostIds, solidEdges } = this.ground();
    const { planeId, snapKinds, snapOnly, aloneId, view } = state,
      edges = state.viewEdges ? viewEdgesOf(model, planeId) : null;
    this.candidates = tool.snaps
      ? findSnaps(model, sheets, looks, traces, inks, toPlane(view, screen), view.scale, {
          planeId,
          aloneId,
          onlyUnderlay: tool.onlyUnderlay,
          notUnderlay: tool.notUnderlay,
          anchor: tool.anchor?.() ?? null,
          kinds: snapOnly ? new Set([snapOnly]) : snapKinds,
          touched: this.touched,
          named: tool.named?.(),
          ghosts: ghostIds,
          beside: [
            ...(edges ? [{ snapper: edges.snapper, of: 'another view' }] : []),
            ...(solidEdges?.planeId === planeId ? [{ snapper: solidEdges.snapper, of: 'the solid' }] : []),
          ],
        })
      : [];
    this.chosen = 0;
    this.use(screen, shift, alt);
    this.touches.wait();
  }

  /** The next of the things that lie under the cursor. */
  next(): void {
    if (this.candidates.length < 2 || !this.last) return;
    this.chosen = (this.chosen + 1) % this.candidates.length;
    this.use(this.last.screen, this.last.shift, this.last.alt);
  }

  /** Shift was pressed or let go while the pointer rests. */
  holdAxis(held: boolean): void {
    if (this.last && this.ground().tool.anchor?.()) this.use(this.last.screen, held, this.last.alt);
  }

  /** Touches what the pick has found now. */
  touch(): void {
    this.touches.touch();
  }

  /** A pick has been carried out, or the surface goes: what was touched counts no more. */
  letGo(): void {
    this.touches.clear();
  }

  /** What the pick has found, in words, and how many other things lie there. */
  words({ found }: Pick): { words: string; others: number } | null {
    return found && { words: foundWords(found) + this.whose(found), others: this.candidates.length - 1 };
  }

  /** Of which sheet it is, where several lie on one another. */
  private whose({ underlayId }: Found): string {
    const { model, state } = this.ground(),
      u = get(model, 'underlay', underlayId);
    if (!u) return '';
    const shown = ofType(model, 'underlay').filter((o) => o.planeId === state.planeId && o.visible);
    return shown.length > 1 ? ` · ${u.name}` : '';
  }

  private use(screen: [number, number], shift: boolean, alt: boolean): void {
    this.last = this.pickFrom(screen, shift, alt);
    this.onPick(this.last);
  }

  private pickFrom(screen: [number, number], shift: boolean, alt: boolean): Pick {
    const { tool, state } = this.ground(),
      bare = toPlane(state.view, screen),
      found = this.candidates[this.chosen] ?? null,
      anchor = shift ? (tool.anchor?.() ?? null) : null;
    let plane: [number, number] = found ? found.plane : bare;
    if (anchor) {
      // The axis is held; a snap still says how far along it.
      const across = Math.abs(bare[0] - anchor[0]) >= Math.abs(bare[1] - anchor[1]);
      plane = across ? [plane[0], anchor[1]] : [anchor[0], plane[1]];
    }
    return {
      plane,
      bare,
      screen,
      found,
      others: this.chosen === 0 ? this.candidates.slice(1) : [],
      touched: this.touched.at(-1)?.at ?? null,
      shift,
      alt,
    };
  }
}
