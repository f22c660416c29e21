'use client';

import { createContext, useContext } from 'react';
import { useStore } from 'zustand';
import type { TableState } from './state';
import type { Table } from './table';

export const TableContext = createContext<Table | null>(null);

export function useTable(): Table {
  const table = useContext(TableContext);
  if (!table) throw new Error('There is no drawing around this component.');
  return table;
}

export function useTableState<T>(select: (state: TableState) => T): T {
  return useStore(useTable().state, select);
}
