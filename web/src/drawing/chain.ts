import type { Table } from '@/table/table';
import type { Link } from '@/table/tools/chain-tool';
import { lengthStyle } from '@/project/views';
import type { Found } from './drawn';

export const endsOfLink = (link: Link): Found[] =>
  [link.snappedFrom, link.snappedTo].map((snapped) => ({ snapped, typed: link.typed, ink: link.ink }));

export const styleOf = (table: Table) => lengthStyle(table.session.state.model);
