import { useEffect, useState } from 'react';
import { api } from './api/base.ts';
import { changedOnFloor } from './floorChanges.ts';
import { joinLine } from './line.ts';
import { store } from './store.ts';

/** Asks again for what others changed, and for just that. */
function changed(topic: string): void {
  const [kind, number] = topic.split(':');
  if (kind === 'job' && number) {
    store.dispatch(api.util.invalidateTags([{ type: 'Job', id: number }]));
    changedOnFloor(store, number);
  } else if (kind === 'shop') store.dispatch(api.util.invalidateTags(['Shop']));
  else if (kind === 'stock') store.dispatch(api.util.invalidateTags(['Stock']));
  else if (kind === 'archive') store.dispatch(api.util.invalidateTags(['Archive']));
  else if (kind === 'instruments') store.dispatch(api.util.invalidateTags(['Instruments']));
  else if (kind === 'ovens') store.dispatch(api.util.invalidateTags(['Ovens']));
  else if (kind === 'work') store.dispatch(api.util.invalidateTags(['Work']));
  else if (kind === 'people') store.dispatch(api.util.invalidateTags(['People']));
  else if (kind === 'all')
    store.dispatch(
      api.util.invalidateTags([
        'Floor',
        'Job',
        'Shop',
        'People',
        'Stock',
        'Archive',
        'Trace',
        'Work',
        'Instruments',
        'Ovens',
      ]),
    );
}

/** Listens to what others change, over the line that this browser's tabs share. Tells whether the line is up. */
export function useLive(person: string): 'live' | 'waiting' {
  const [line, setLine] = useState<'live' | 'waiting'>('waiting');
  useEffect(
    () =>
      person === ''
        ? undefined
        : joinLine(person, (message) => {
            if (message === 'signed-out') store.dispatch(api.util.resetApiState());
            else if ('up' in message) setLine(message.up ? 'live' : 'waiting');
            else if ('topic' in message) changed(message.topic);
          }),
    [person],
  );
  return line;
}
