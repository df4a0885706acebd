import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Settings } from '#model/settings';
import { call, queries, type ApiError } from '../app/api';

/** A setting as it is kept, and what became of keeping it. */
export type SettingOf<K extends keyof Settings> = ReturnType<typeof useSetting<K>>;

/**
 * One setting, changed where it stands: checked here, sent with the version that is shown, refused when somebody changed it since.
 * `ready` is false until it is known what is kept: nothing can be changed on a version that nobody has seen.
 */
export function useSetting<K extends keyof Settings>(field: K) {
  const client = useQueryClient();
  const kept = useQuery(queries.settings).data;
  const save = useMutation<unknown, ApiError | Error, Settings[K]>({
    mutationFn: async (value) => {
      if (!kept) throw new Error('The shop’s settings are still being read');
      const read = (
        Settings.shape[field] as unknown as { safeParse: (v: unknown) => { success: boolean; error?: { issues: { message: string }[] } } }
      ).safeParse(value);
      if (!read.success) throw new Error(read.error!.issues[0]!.message);
      await call('/api/settings', { method: 'PATCH', json: { changes: [{ field, value, version: kept.versions[field] ?? 0 }] } });
    },
    onSettled: async () => {
      await client.invalidateQueries({ queryKey: ['settings'] });
      await client.invalidateQueries({ queryKey: ['order'] });
      await client.invalidateQueries({ queryKey: ['week'] });
      await client.invalidateQueries({ queryKey: ['supply'] });
    },
  });
  return {
    ready: kept !== undefined,
    value: kept?.settings[field],
    save: save.mutate,
    saved: save.isSuccess,
    error: save.error?.message ?? null,
  };
}
