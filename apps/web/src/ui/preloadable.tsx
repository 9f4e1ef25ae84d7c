import { lazy, type ComponentType } from 'react';

/**
 * A component of its own file that may be fetched before it is shown: once it is there it is shown at once, without the pause
 * that React makes after a placeholder.
 */
export function preloadable<P extends object>(
  load: () => Promise<ComponentType<P>>,
): ComponentType<P> & { preload: () => void } {
  let loaded: ComponentType<P> | undefined;
  const fetched = async (): Promise<ComponentType<P>> => (loaded = await load());
  const Later = lazy(async () => ({ default: await fetched() }));
  const Shown = (props: P) => {
    const Now = loaded ?? Later;
    return <Now {...props} />;
  };
  return Object.assign(Shown, { preload: () => void fetched().catch(() => undefined) });
}
