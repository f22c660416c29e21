import type { Table } from '@/table/table';
import type { Tool } from '@/table/tool';

/** A tool that can be used in several ways. */
interface Ways extends Tool {
  nextVariant(): boolean;
}

/** Takes the next way in which the drawing tool in hand works; false where it has but one, or none is in hand. */
export function nextWay(table: Table): boolean {
  const tool = table.currentTool;
  const turned = 'nextVariant' in tool && (tool as Ways).nextVariant();
  if (turned) table.showTool();
  return turned;
}
