import { mergeProps } from 'react-aria';

/** Handlers and properties of several as one; as a hook, since what they hold on to is only asked for when something happens. */
export const useMergedProps: typeof mergeProps = (...all) => mergeProps(...all);
