import type { KeyDispatcher } from '@/commands/keys';
import { Fingers } from './fingers';
import { KeyCursor } from './key-cursor';
import type { Pick, Tool } from './tool';
import { zoomAbout, type Insets, type Viewport } from './viewport';

const WHEEL_STEP = 0.0016;
/** A press that moves less than this many pixels is a click. */
const CLICK_SLACK = 4,
  FINGER_SLACK = 10;
const KEY_ZOOM = 1.4;

/** What is driven by the input: the surface, as far as pointer and keys need to know it. */
interface Driven {
  readonly view: Viewport;
  readonly currentTool: Tool;
  readonly lastPick: Pick | null;
  readonly keys: KeyDispatcher;
  readonly state: {
    getState(): {
      loupe: boolean;
      field: { required: boolean } | null;
      size: { width: number; height: number };
      insets: Insets;
    };
  };
  showKeyCursor(shown: boolean): void;
  typeAhead(letter: string): void;
  setView(view: Viewport): void;
  moveTo(screen: [number, number], shift: boolean, alt: boolean): void;
  picked(): void;
  holdAxis(held: boolean): void;
  showTool(): void;
  layDown(): void;
  nextCandidate(): void;
  nextLimit(): void;
  setLoupe(loupe: boolean): void;
  setLookThrough(lookThrough: boolean): void;
}

/** Pointer, wheel and keys of the drawing surface, as steps of its view and of the tool in hand. */
export class TableInput {
  private shiftHeld = false;
  /** `still`: a right click so far, which means Esc. */
  private pan: { id: number; x: number; y: number; still: boolean } | null = null;
  /** `waits`: of a finger it is not known yet whether it clicks, drags, or is the first of two. */
  private pressed: { id: number; x: number; y: number; dragging: boolean; waits: boolean } | null = null;
  private spaceHeld = false;
  private readonly stops: (() => void)[] = [];
  private readonly keyCursor: KeyCursor;
  private readonly fingers: Fingers;

  constructor(
    private readonly container: HTMLDivElement,
    private readonly table: Driven,
  ) {
    this.keyCursor = new KeyCursor(table);
    this.fingers = new Fingers(table);
    this.on(container, 'pointerdown', (e) => this.pointerDown(e));
    this.on(container, 'pointermove', (e) => this.pointerMove(e));
    this.on(container, 'pointerup', (e) => this.pointerUp(e));
    this.on(container, 'pointercancel', (e) => {
      this.fingers.lift(e.pointerId);
      this.pan = null;
      this.pressed = null;
    });
    this.on(container, 'contextmenu', (e) => e.preventDefault());
    this.on(container, 'wheel', (e) => this.wheel(e), { passive: false });
    this.stops.push(table.keys.on('drawing', (e) => this.keyDown(e)));
    this.on(window, 'keyup', (e) => this.keyUp(e));
    this.on(window, 'blur' as 'focus', () => {
      this.spaceHeld = false;
      table.setLookThrough(false);
    });
  }

  close(): void {
    this.fingers.rest();
    this.stops.forEach((stop) => stop());
  }

  private on<K extends keyof HTMLElementEventMap>(
    target: HTMLElement | Window,
    name: K,
    handler: (event: HTMLElementEventMap[K]) => void,
    options?: AddEventListenerOptions,
  ): void {
    target.addEventListener(name, handler as EventListener, options);
    this.stops.push(() => target.removeEventListener(name, handler as EventListener, options));
  }

  private local(event: PointerEvent | WheelEvent): [number, number] {
    const box = this.container.getBoundingClientRect();
    return [event.clientX - box.left, event.clientY - box.top];
  }

  private pointerDown(event: PointerEvent): void {
    const { table } = this;
    this.container.focus({ preventScroll: true });
    const [x, y] = this.local(event);
    this.container.setPointerCapture(event.pointerId);
    if (event.button !== 0 || this.spaceHeld) {
      this.pan = { id: event.pointerId, x, y, still: event.button === 2 };
      if (event.button !== 2) this.container.style.cursor = 'grabbing';
      return;
    }
    const finger = event.pointerType === 'touch';
    if (finger && this.fingers.press(event.pointerId, [x, y])) {
      // What the first finger had begun to drag is given up.
      if (this.pressed?.dragging && table.currentTool.drag) {
        table.currentTool.cancel();
        table.showTool();
      }
      this.pressed = null;
      return;
    }
    this.pressed = { id: event.pointerId, x, y, dragging: false, waits: finger };
    table.moveTo([x, y], event.shiftKey, event.altKey);
    if (!finger && table.currentTool.drag) table.currentTool.press(table.lastPick!);
  }

  private pointerMove(event: PointerEvent): void {
    const { table } = this;
    const [x, y] = this.local(event);
    if (this.pan) {
      if (this.pan.still && Math.hypot(x - this.pan.x, y - this.pan.y) <= CLICK_SLACK) return;
      const v = table.view;
      this.container.style.cursor = 'grabbing';
      table.setView({ ...v, x: v.x + x - this.pan.x, y: v.y + y - this.pan.y });
      this.pan = { ...this.pan, x, y, still: false };
      return;
    }
    this.keyCursor.rest();
    const finger = event.pointerType === 'touch',
      far = this.pressed && Math.hypot(x - this.pressed.x, y - this.pressed.y) > this.slackOf(event);
    if (finger && this.fingers.move(event.pointerId, [x, y])) return;
    // A hand trembles: what the finger rests on stays chosen.
    if (finger && this.pressed && !far && !this.pressed.dragging) return;
    if (far) this.startDrag(event);
    table.moveTo([x, y], event.shiftKey, event.altKey);
    if (this.pressed?.dragging && table.currentTool.drag) {
      table.currentTool.drag(table.lastPick!);
      table.showTool();
    }
  }

  private slackOf(event: PointerEvent): number {
    return event.pointerType === 'touch' ? FINGER_SLACK : CLICK_SLACK;
  }

  /** The press is no click: a finger that drags begins where it came down. */
  private startDrag(event: PointerEvent): void {
    const { pressed, table } = this;
    if (!pressed || pressed.dragging) return;
    pressed.dragging = true;
    this.fingers.rest();
    if (!pressed.waits) return;
    pressed.waits = false;
    table.moveTo([pressed.x, pressed.y], event.shiftKey, event.altKey);
    if (table.currentTool.drag) table.currentTool.press(table.lastPick!);
  }

  private pointerUp(event: PointerEvent): void {
    const { table } = this;
    if (event.pointerType === 'touch' && this.fingers.lift(event.pointerId)) {
      this.pressed = null;
      return;
    }
    if (this.pan) {
      const { still } = this.pan;
      this.pan = null;
      if (still) this.escape();
      this.container.style.cursor = this.spaceHeld ? 'grab' : table.currentTool.cursor;
      return;
    }
    if (!this.pressed || event.button !== 0) return;
    const { waits } = this.pressed;
    this.pressed = null;
    // What a finger has stepped to is what it picks.
    if (!(waits && this.fingers.stepped)) table.moveTo(this.local(event), event.shiftKey, event.altKey);
    if (waits || !table.currentTool.drag) table.currentTool.press(table.lastPick!);
    if (table.currentTool.drag) table.currentTool.release?.(table.lastPick!);
    table.picked();
  }

  private wheel(event: WheelEvent): void {
    const { table } = this;
    event.preventDefault();
    const screen = this.local(event);
    const unit = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? 30 : 1;
    if (event.shiftKey && !event.ctrlKey) {
      const v = table.view;
      table.setView({ ...v, x: v.x - (event.deltaX || event.deltaY) * unit });
    } else
      table.setView(
        zoomAbout(table.view, Math.exp(-event.deltaY * unit * (event.ctrlKey ? 4 : 1) * WHEEL_STEP), screen),
      );
    table.moveTo(screen, event.shiftKey, event.altKey);
  }

  /** Says whether the key was for the drawing. */
  private keyDown(event: KeyboardEvent): boolean {
    const { table } = this;
    const looks = looksAround(event);
    if (isTyping(event.target) && !looks) return false;
    if (pressesButton(event)) return false;
    // What must be typed is typed, also in the moment before its field has the cursor: it is no command.
    if (
      table.state.getState().field?.required &&
      event.key.length === 1 &&
      !event.ctrlKey &&
      !event.metaKey &&
      !event.altKey
    ) {
      table.typeAhead(event.key);
      return true;
    }
    if (event.key === 'Shift' && !this.shiftHeld) this.holdShift(true);
    if (event.key === ' ' && document.activeElement === this.container) {
      this.spaceHeld = true;
      this.container.style.cursor = 'grab';
      return true;
    }
    const onDrawing = document.activeElement === this.container || document.activeElement === document.body;
    if (event.ctrlKey && !event.metaKey && onDrawing && this.keyCursor.move(event)) return true;
    if (event.ctrlKey || event.metaKey) return false;
    if (event.key === 'Escape') {
      this.escape();
      return false;
    }
    if (event.key === 'Enter' && onDrawing && this.keyCursor.takeClick()) {
      this.click(event);
      return true;
    }
    if ((onDrawing || looks) && (event.key === 'PageUp' || event.key === 'PageDown')) {
      const { size } = table.state.getState();
      table.setView(
        zoomAbout(
          table.view,
          event.key === 'PageUp' ? KEY_ZOOM : 1 / KEY_ZOOM,
          table.lastPick?.screen ?? [size.width / 2, size.height / 2],
        ),
      );
      return true;
    }
    return this.toolKey(event, onDrawing);
  }

  /** Keys that look at what lies under the cursor, those of the tool in hand, and those that move the cursor. */
  private toolKey(event: KeyboardEvent, onDrawing: boolean): boolean {
    const { table } = this;
    // Letters with Shift are commands of their own.
    const key = event.shiftKey && /^[a-z]$/i.test(event.key) ? '' : event.key.toLowerCase();
    if (key === 'x') table.setLookThrough(true);
    else if (key === 'n') table.nextCandidate();
    else if (key === 'h') table.nextLimit();
    else if (key === '=') table.setLoupe(!table.state.getState().loupe);
    else if (table.currentTool.key?.(event)) table.showTool();
    else return onDrawing && this.keyCursor.move(event);
    return true;
  }

  /** What is under way is given up; where nothing is, the tool is laid down. */
  private escape(): void {
    const { table } = this;
    if (!table.currentTool.cancel()) table.layDown();
    table.showTool();
  }

  /** A click where the cursor is, without a pointer. */
  private click(event: KeyboardEvent): void {
    const { table } = this,
      pick = table.lastPick;
    if (!pick) return;
    table.moveTo(pick.screen, event.shiftKey, event.altKey);
    table.currentTool.press(table.lastPick!);
    if (table.currentTool.drag) table.currentTool.release?.(table.lastPick!);
    table.picked();
  }

  private keyUp(event: KeyboardEvent): void {
    if (event.key === 'Shift') this.holdShift(false);
    if (event.key.toLowerCase() === 'x') this.table.setLookThrough(false);
    if (event.key === ' ') {
      this.spaceHeld = false;
      this.container.style.cursor = this.table.currentTool.cursor;
    }
  }

  private holdShift(held: boolean): void {
    this.shiftHeld = held;
    this.table.holdAxis(held);
  }
}

/** Inputs that take no text: a tick box, switch, radio or slider that was used last leaves the single keys to the drawing. */
const WITHOUT_TEXT: ReadonlySet<string> = new Set([
  'checkbox',
  'radio',
  'range',
  'button',
  'submit',
  'reset',
  'file',
  'color',
  'image',
]);

/** Does what has the focus take text? */
export function isTyping(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return !WITHOUT_TEXT.has(target.type);
  return target.isContentEditable || ['TEXTAREA', 'SELECT'].includes(target.tagName);
}

/** A button that the keyboard has come to is pressed by Enter and Space; one that was clicked before leaves them to the drawing. */
const pressesButton = (event: KeyboardEvent): boolean =>
  (event.key === 'Enter' || event.key === ' ') &&
  event.target instanceof HTMLElement &&
  event.target.matches('button:focus-visible, a:focus-visible, [role=option]:focus-visible');

/** Keys that look at the drawing, also while a figure is asked for at the cursor: none of them means anything in a field with nothing in it. */
export function looksAround(event: KeyboardEvent): boolean {
  const { target } = event;
  if (
    !(target instanceof HTMLInputElement) ||
    !target.closest('[data-testid=cursor-field]') ||
    event.ctrlKey ||
    event.metaKey ||
    event.altKey
  )
    return false;
  return event.key === 'PageUp' || event.key === 'PageDown' || (event.key === 'Home' && target.value === '');
}
