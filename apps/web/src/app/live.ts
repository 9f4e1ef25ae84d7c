import { useEffect, useState } from 'react';
import { api } from './api/base.ts';
import { changedOnFloor } from './floorChanges.ts';
import { store } from './store.ts';

/** Listens to what others change and asks again for just that. Tells whether the line is up. */
export function useLive(): 'live' | 'waiting' {
  const [line, setLine] = useState<'live' | 'waiting'>('waiting');
  useEffect(() => {
    const source = new EventSource('/api/live');
    source.onopen = () => setLine('live');
    source.onerror = () => setLine('waiting');
    source.onmessage = (event: MessageEvent<string>) => {
      if (event.data === 'signed-out') {
        source.close();
        store.dispatch(api.util.resetApiState());
        return;
      }
      const [kind, number] = event.data.split(':');
      if (kind === 'job' && number) {
        store.dispatch(api.util.invalidateTags([{ type: 'Job', id: number }]));
        changedOnFloor(store, number);
      } else if (kind === 'shop') store.dispatch(api.util.invalidateTags(['Shop']));
      else if (kind === 'stock') store.dispatch(api.util.invalidateTags(['Stock']));
      else if (kind === 'archive') store.dispatch(api.util.invalidateTags(['Archive']));
      else if (kind === 'trace' && number) store.dispatch(api.util.invalidateTags([{ type: 'Trace', id: number }]));
      else if (kind === 'instruments') store.dispatch(api.util.invalidateTags(['Instruments']));
      else if (kind === 'work') store.dispatch(api.util.invalidateTags(['Work']));
      else if (kind === 'people') store.dispatch(api.util.invalidateTags(['People']));
      else if (kind === 'all') store.dispatch(api.util.invalidateTags(['Floor', 'Job', 'Shop', 'People', 'Stock']));
    };
    return () => source.close();
  }, []);
  return line;
}
