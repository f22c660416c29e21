import { atLevel } from '@calque/core/framing';
import {
  get,
  MEMBER_ENDS,
  setFields,
  type Member,
  type MemberEndName,
  type MemberLevel,
} from '@calque/core/model';
import { formatLengthWithUnit } from '@calque/core/units';
import { lengthStyle } from '@/project/views';
import { levelAt } from '@/drawing/printed-levels';
import type { Brush } from '@/table/brush';
import { tracedAt } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Pick, Tool } from '@/table/tool';

/** A click in this share of a member about its middle means both of its ends. */
const MIDDLE = 0.2;

type Said = Omit<MemberLevel, 'end'>;

/** Puts ends of members at the level that the sheet prints: its mark is clicked first, then the ends, one after another. */
export class MemberLevelTool implements Tool {
  readonly id = 'member-level';
  readonly snaps = true;
  readonly cursor = 'crosshair';
  private said: Said | null = null;
  private hover: Pick | null = null;

  constructor(private readonly table: Table) {}

  private length(mm: number): string {
    return formatLengthWithUnit(mm, lengthStyle(this.table.session.state.model));
  }

  words(): string {
    return this.said
      ? `Level ${this.said.text}: click a member near the end whose line lies there, or in its middle for both · Esc: another level`
      : 'Printed level: click its mark or figure on the elevation · Esc ends';
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    const { session } = this.table;
    if (!this.said) {
      const seen = levelAt(this.table, pick.plane);
      if (!seen)
        session.tell(
          'Levels are printed on elevations and sections: go to the upright plane of the frame.',
          true,
        );
      else if (!seen.printed)
        session.tell(
          `No figure of a level stands near; the drawing measures ${this.length(seen.measured)} there. Click nearer to a printed one.`,
          true,
        );
      else if (!seen.printed.isScaled)
        session.tell(
          'The sheet is not to scale yet: calibrate it first, so that what it draws can be held against what it prints.',
          true,
        );
      else {
        this.said = { level: seen.printed.level, text: seen.printed.text.slice(0, 80), drawn: seen.measured };
        this.table.showTool();
      }
      return;
    }
    const member = this.memberAt(pick);
    if (!member) session.tell('There is no member: click one on its lines.', true);
    else this.put(member, endsMeant(member, pick.bare), this.said);
  }

  private put(member: Member, ends: readonly MemberEndName[], said: Said): void {
    const { session } = this.table,
      fields = atLevel(session.state.model, member, ends, said);
    if (typeof fields === 'string') return session.tell(fields, true);
    if (!session.do(setFields<Member>(member, fields), `Put a member at ${said.text}`.slice(0, 190))) return;
    const off = said.drawn - said.level;
    session.tell(
      Math.abs(off) < 0.05
        ? `It lies at ${said.text}, as the sheet draws it.`
        : `It lies at ${said.text} as printed; the sheet draws that ${this.length(Math.abs(off))} ${off > 0 ? 'higher' : 'lower'}.`,
    );
    this.table.setSelection([member.id]);
  }

  private memberAt(pick: Pick): Member | null {
    const e = tracedAt(this.table, pick.bare);
    return e?.type === 'member' ? get(this.table.session.state.model, 'member', e.id) : null;
  }

  paint(brush: Brush): void {
    const member = this.said && this.hover && this.memberAt(this.hover);
    if (!member) return;
    const { context, palette } = brush;
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    for (const end of endsMeant(member, this.hover!.bare)) {
      const [x, y] = brush.at(end === 'start' ? member.from : member.to);
      context.strokeRect(x - 6, y - 6, 12, 12);
    }
    context.restore();
  }

  cancel(): boolean {
    if (!this.said) return false;
    this.said = null;
    this.table.showTool();
    return true;
  }
}

/** The end near which a place lies; about the middle of a member both. */
function endsMeant({ from, to }: Member, [x, y]: readonly [number, number]): readonly MemberEndName[] {
  const far = (p: readonly [number, number]) => Math.hypot(p[0] - x, p[1] - y),
    share = far(from) / (far(from) + far(to));
  if (Math.abs(share - 0.5) < MIDDLE / 2) return MEMBER_ENDS;
  return share < 0.5 ? ['start'] : ['end'];
}
