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
  let there: ComponentType<P> | null = null;
  let coming: Promise<ComponentType<P>> | null = null;
  const fetched = () => {
    coming ??= load().then(
      Show => (there = Show),
      (error: unknown) => {
        coming = null;
        throw error;
      },
    );
    return coming;
  };
  const Lazy: Lazily<P> = props => {
    const Show = there ?? use(fetched());
    return <Show {...props} />;
  };
  Lazy.ahead = () => void fetched().catch(() => undefined);
  return Lazy;
}
