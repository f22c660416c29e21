import { joinedFrame, membersUnder, memberMet, type PlacedMember } from '@calque/core/framing';
import {
  get,
  group,
  JOINT_FORMS,
  meetsAnother,
  MOST_CLEATS,
  memberAxis,
  MEMBER_ENDS,
  sectionName,
  setFields,
  withJoint,
  type Change,
  type Joint,
  type JointForm,
  type MadeForm,
  type Member,
  type MemberEndName,
  type Model,
} from '@calque/core/model';
import type { NamedWays, Ways } from '@/drawing/next-way';
import { count } from '@/project/trace-words';
import type { Brush } from '@/table/brush';
import { chosenTraced, tracedAt } from '@/table/hit';
import type { Table } from '@/table/table';
import type { Pick } from '@/table/tool';

/** What the forms of ends are called. */
export const FORM_WORDS: Readonly<Record<MadeForm, string>> = {
  face: 'cut to a face',
  mitre: 'mitred',
  cope: 'coped',
  basePlate: 'base plate',
  endPlate: 'end plate',
  finPlate: 'fin plate',
  cleat: 'angle cleats',
  purlinCleat: 'purlin cleat',
  splice: 'splice',
  gusset: 'gusset',
};

/** The form that the tool makes, kept from one time to the next. */
let formInHand: MadeForm = 'endPlate';
/** The forms that the tool makes: those of ends, and cleats under what runs over others. */
const FORMS: readonly MadeForm[] = [...JOINT_FORMS, 'purlinCleat'];

/** The changes that make one end; words where it cannot be. */
export function joined(
  member: Member,
  end: MemberEndName,
  form: MadeForm,
  to: string | null,
): Change | null | string {
  if (form === 'purlinCleat') return cleated(member, to === null ? [] : [to]);
  if (meetsAnother(form) && to === null)
    return 'No other member is near that end: draw the two so that they meet, or point at the other.';
  const joint: Joint = { end, form, to: meetsAnother(form) ? to : null };
  return setFields(member, withJoint(member, end, joint));
}

/** The change that stands a member on cleats on others as well. */
function cleated(member: Member, on: readonly string[]): Change | null | string {
  const there = new Set((member.cleats ?? []).map((c) => c.to)),
    more = on.filter((to) => !there.has(to));
  if (more.length === 0)
    return on.length > 0
      ? 'It is held on that member already: its sizes stand in the card.'
      : 'It runs over no other member: lay it on one first.';
  if (there.size + more.length > MOST_CLEATS) return `A member is held on ${MOST_CLEATS} others at most.`;
  return setFields<Member>(member, { cleats: [...(member.cleats ?? []), ...more.map((to) => ({ to }))] });
}

/** What does not come out at an end, as a sentence; null where all does. */
export function doubtAt(model: Model, id: string, end: MemberEndName | null): string | null {
  const words = joinedFrame(model)
    .doubts.filter((d) => d.id === id && d.end === end)
    .map((d) => d.words);
  return words.length === 0 ? null : `${words.join('; ').replace(/^./, (c) => c.toUpperCase())}.`;
}

const needsAnother = (form: MadeForm): boolean => form === 'purlinCleat' || meetsAnother(form);

/** Makes ends of members: the end is pointed at, then the member that it meets. */
export class JointTool implements NamedWays {
  readonly id = 'joint';
  readonly snaps = false;
  readonly cursor = 'crosshair';
  private first: { id: string; end: MemberEndName } | null = null;
  private hover: Pick | null = null;

  constructor(
    private readonly table: Table,
    first: { id: string; end: MemberEndName; form: JointForm } | null = null,
  ) {
    if (!first) return;
    this.first = first;
    formInHand = first.form;
  }

  private get model(): Model {
    return this.table.session.state.model;
  }

  words(): string {
    const form = FORM_WORDS[formInHand];
    if (this.first && formInHand === 'purlinCleat')
      return `Joint, ${form}: now click the member on which it lies · Esc gives it up`;
    if (!this.first && formInHand === 'purlinCleat')
      return `Joint, ${form}: click the member that runs over another · F: another form · Esc ends`;
    if (this.first) return `Joint, ${form}: now click the member that this end meets · Esc gives it up`;
    return `Joint, ${form}: click a member near the end that is to be made · F: ${FORMS.map((f) => FORM_WORDS[f]).join(', ')} · Esc ends`;
  }

  ways(): Ways {
    return {
      words: FORMS.map((f) => FORM_WORDS[f]),
      at: FORMS.indexOf(formInHand),
      choose: (at) => {
        formInHand = FORMS[at];
        this.table.showTool();
      },
    };
  }

  nextVariant(): boolean {
    formInHand = FORMS[(FORMS.indexOf(formInHand) + 1) % FORMS.length];
    return true;
  }

  private memberAt(pick: Pick): Member | null {
    const e = tracedAt(this.table, pick.bare);
    return e?.type === 'member' ? get(this.model, 'member', e.id) : null;
  }

  move(pick: Pick): void {
    this.hover = pick;
  }

  press(pick: Pick): void {
    const { session } = this.table,
      member = this.memberAt(pick);
    if (!member) {
      session.tell(
        'There is no member: click one on its lines. Those of a group are joined in their group.',
        true,
      );
      return;
    }
    if (!this.first) {
      const end = endNear(member, pick.bare);
      if (needsAnother(formInHand)) {
        this.first = { id: member.id, end };
        this.table.setSelection([member.id]);
        this.table.showTool();
      } else this.put(member, end, null);
      return;
    }
    const own = get(this.model, 'member', this.first.id);
    if (!own) this.first = null;
    else if (own.id === member.id)
      session.tell('It cannot be joined to itself: click the other member.', true);
    else this.put(own, this.first.end, member.id);
  }

  private put(member: Member, end: MemberEndName, to: string | null): void {
    const { session } = this.table,
      change = joined(member, end, formInHand, to);
    this.first = null;
    if (typeof change === 'string') session.tell(change, true);
    else if (
      change &&
      session.do(
        change,
        formInHand === 'purlinCleat' ? 'Hold a member by a cleat' : `Make an end: ${FORM_WORDS[formInHand]}`,
      )
    ) {
      const doubt = doubtAt(this.model, member.id, formInHand === 'purlinCleat' ? null : end);
      if (doubt) session.tell(doubt, true);
    }
    this.table.setSelection([member.id]);
    this.table.showTool();
  }

  paint(brush: Brush): void {
    const at = this.first ? this.firstPlace() : this.hoverPlace();
    if (!at) return;
    const { context, palette } = brush,
      [x, y] = brush.at(at);
    context.save();
    context.strokeStyle = palette.now;
    context.lineWidth = 2;
    context.strokeRect(x - 6, y - 6, 12, 12);
    context.restore();
  }

  private firstPlace(): readonly [number, number] | null {
    const { first } = this,
      member = first && get(this.model, 'member', first.id);
    if (!member) return null;
    return first.end === 'start' ? member.from : member.to;
  }

  private hoverPlace(): readonly [number, number] | null {
    const member = this.hover && this.memberAt(this.hover);
    if (!member) return null;
    return endNear(member, this.hover!.bare) === 'start' ? member.from : member.to;
  }

  cancel(): boolean {
    if (!this.first) return false;
    this.first = null;
    return true;
  }
}

/** The end of a member that is nearest to a place; of one that stands on the plan its foot. */
function endNear(member: Member, [x, y]: readonly [number, number]): MemberEndName {
  if (memberAxis(member).endOn !== 0) return member.rise[0] <= member.rise[1] ? 'start' : 'end';
  const far = (p: readonly [number, number]) => Math.hypot(p[0] - x, p[1] - y);
  return far(member.from) <= far(member.to) ? 'start' : 'end';
}

/** Every end of the members that are selected which meets another, and is cut square yet, is made as the tool does. */
export function joinChosen(table: Table): void {
  const { session } = table,
    { model } = session.state,
    members = chosenTraced(table).filter((e): e is Member => e.type === 'member');
  if (members.length === 0) {
    session.tell('Select members first: their ends that meet others are joined as Joint does.', true);
    return;
  }
  const feet = new Map(joinedFrame(model).members.map((m) => [m.member.id, footOfMember(m)]));
  let made = 0;
  const changes = members.map((member) => {
    let next: Member = member;
    if (formInHand === 'purlinCleat') {
      const there = new Set((member.cleats ?? []).map((c) => c.to)),
        more = membersUnder(model, member.id).filter((to) => !there.has(to)),
        change = cleated(member, more);
      if (typeof change === 'string' || !change) return null;
      made += more.length;
      return change;
    }
    for (const end of MEMBER_ENDS) {
      if (next.joints?.some((j) => j.end === end)) continue;
      const form: JointForm = formInHand,
        isFoot = feet.get(member.id) === end,
        to = meetsAnother(form) ? memberMet(model, member.id, end) : null;
      if (to === null && (meetsAnother(form) || !isFoot)) continue;
      next = { ...next, ...withJoint(next, end, { end, form, to }) };
      made++;
    }
    return next === member ? null : setFields<Member>(member, { joints: next.joints });
  });
  if (made === 0) {
    session.tell(
      formInHand === 'purlinCleat'
        ? 'None of them runs over a member on which it has no cleat yet.'
        : 'None of their ends that are cut square yet meets another member.',
    );
    return;
  }
  const what = formInHand === 'purlinCleat' ? 'cleat' : 'end';
  session.do(group(changes), `Make ${count(made, what)}: ${FORM_WORDS[formInHand]}`.slice(0, 190));
  const doubted = joinedFrame(session.state.model).doubts.filter((d) => members.some((m) => m.id === d.id));
  session.tell(
    doubted.length === 0
      ? `${count(made, `${what} was`, `${what}s were`)} made: ${FORM_WORDS[formInHand]}.`
      : `${count(made, `${what} was`, `${what}s were`)} made; of ${doubted.length} not all comes out: see Check.`,
    doubted.length > 0,
  );
}

/** The lower end of a member that rises; plates go under these. */
function footOfMember({ along }: PlacedMember): MemberEndName | null {
  if (Math.abs(along[2]) < RISES) return null;
  return along[2] > 0 ? 'start' : 'end';
}
/** Half as steep as upright, at least. */
const RISES = 0.5;

/** What a member is called beside others: its mark, or its section. */
export const memberName = (m: Member | null): string =>
  m ? [m.mark, sectionName(m)].filter((w) => w !== '').join(', ') : 'a member that is gone';
