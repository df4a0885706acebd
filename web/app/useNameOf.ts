import { useQuery } from '@tanstack/react-query';
import { queries } from './api';

/** What somebody is called, by their sign-in; that itself while the shop's people are not read, and of who is not among them. */
export function useNameOf(): (id: string) => string {
  const { data } = useQuery(queries.people);
  return (id) => data?.find((p) => p.id === id)?.name ?? id;
}
