import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { queries } from '../app/api';

/**
 * What is shown of the floor: the open orders as they are promised, the models by a unit’s whole name, and the week as it is planned;
 * while that is done for the first time here, as it was planned last.
 */
export function useFloor() {
  const floor = useQuery(queries.floor);
  const week = useQuery(queries.week);
  const planning = week.isPending;
  const before = useQuery({ ...queries.weekBefore, enabled: planning }).data;
  const sheets = useQuery(queries.sheets).data;
  const settings = useQuery(queries.settings).data?.settings;
  const models = useMemo(() => new Map((sheets?.models ?? []).map((m) => [`${m.sheet.maker} ${m.sheet.name}`, m.sheet])), [sheets]);
  const list = useMemo(() => floor.data?.orders ?? [], [floor.data]);
  const orders = useMemo(() => new Map(list.map((o) => [o.id, o])), [list]);
  return {
    floor,
    list,
    orders,
    models,
    settings,
    week: week.data ?? (planning ? before : null) ?? undefined,
    planning,
    noWeek: week.error,
  };
}
