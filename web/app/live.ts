import { useQueryClient } from '@tanstack/react-query';
import { useEffect } from 'react';
import { inShop } from './place';
import { reach } from './reach';

/**
 * Hears from the server which orders changed, and reads them again. Only a page that is seen listens: a browser opens few
 * connections to one server, and hidden tabs would use them up. What was missed meanwhile is read on return.
 */
export function useLive(): void {
  const client = useQueryClient();
  useEffect(() => {
    let source: EventSource | null = null;
    const close = () => {
      source?.close();
      source = null;
    };
    const listen = () => {
      if (source || document.visibilityState === 'hidden') return;
      source = new EventSource(inShop('/api/stream'));
      source.addEventListener('order', (e) => {
        const { id, version } = JSON.parse(e.data) as { id: string; version: number };
        const had = client.getQueryData<{ order: { version: number } }>(['order', id]);
        if (!had || had.order.version < version) {
          void client.invalidateQueries({ queryKey: ['order', id] });
          void client.invalidateQueries({ queryKey: ['events', id] });
        }
        void client.invalidateQueries({ queryKey: ['floor'] });
        void client.invalidateQueries({ queryKey: ['week'] });
        void client.invalidateQueries({ queryKey: ['supply'] });
        void client.invalidateQueries({ queryKey: ['messages', id] });
        void client.invalidateQueries({ queryKey: ['orders'] });
      });
      let first = true;
      source.addEventListener('error', () => reach.heard(false));
      source.addEventListener('open', () => {
        reach.heard(true);
        if (!first) void client.invalidateQueries();
        first = false;
      });
    };
    const seen = () => {
      if (document.visibilityState === 'hidden') return close();
      if (!source) void client.invalidateQueries({ queryKey: ['order'] });
      listen();
    };
    listen();
    let reached = reach.snapshot();
    // what was shown from before is read anew once the server answers again
    const stop = reach.subscribe(() => {
      const now = reach.snapshot();
      if (now && !reached) void client.invalidateQueries();
      reached = now;
    });
    document.addEventListener('visibilitychange', seen);
    window.addEventListener('pagehide', close);
    window.addEventListener('pageshow', listen);
    return () => {
      close();
      stop();
      document.removeEventListener('visibilitychange', seen);
      window.removeEventListener('pagehide', close);
      window.removeEventListener('pageshow', listen);
    };
  }, [client]);
}
