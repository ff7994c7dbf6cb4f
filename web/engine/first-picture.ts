/** The first large picture of a visit: what nobody waits for comes after it. */

/** How long is waited for it where none comes, in milliseconds. */
const PATIENCE_MS = 4000;

let shown: () => void = () => undefined;
const first = new Promise<void>(done => (shown = done));

/** To be called when a large picture has been drawn. */
export const pictureShown = (): void => shown();

/** Resolves when the first large picture has been drawn, or after a while where none is. */
export const afterFirstPicture = (): Promise<void> =>
  Promise.race([first, new Promise<void>(done => setTimeout(done, PATIENCE_MS))]);

/** Does what nobody waits for: after the first picture, when the browser has nothing else to do. */
export async function whenNothingWaits(work: () => void): Promise<void> {
  await afterFirstPicture();
  // Not every browser tells when it is idle.
  (window.requestIdleCallback ?? setTimeout)(work);
}
