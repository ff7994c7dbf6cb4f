import { use, type ComponentType, type ReactNode } from 'react';

/** A component that comes when it is first shown; `ahead` fetches it before. */
export interface Lazily<P> {
  (props: P): ReactNode;
  ahead: () => void;
}

/**
 * A component of a part of the program that is fetched by itself. Once it is there it is shown at once, without waiting; one that
 * could not be fetched is fetched again when it is next shown.
 * @param load fetches it
 */
export function lazily<P extends object>(load: () => Promise<ComponentType<P>>): Lazily<P> {
  let coming: Promise<ComponentType<P>> | null = null;
  const fetched = () => {
    if (coming) return coming;
    const fetching = load();
    coming = fetching;
    fetching.then(
      // React reads these: what is there already is shown without waiting.
      value => void Object.assign(fetching, { status: 'fulfilled', value }),
      () => (coming = null),
    );
    return fetching;
  };
  const Lazy: Lazily<P> = props => {
    const Show = use(fetched());
    return <Show {...props} />;
  };
  Lazy.ahead = () => void fetched().catch(() => undefined);
  return Lazy;
}
