import { BUILD_HEADER } from '../../contract/limits';

/**
 * A page from before an upgrade asks for files that are no more. When the server says that it gives out another build
 * than this page is of, the page is loaded anew: as soon as nothing is held with the pointer and nothing is unsaved.
 */

const LOADED = 'lampwash.loaded-for';
const LOOK_MS = 1000;

/** The build that this page is of; null where it was not built. */
function own(): string | null {
  const content = document.querySelector<HTMLMetaElement>('meta[name="build"]')?.content;
  return content && !content.startsWith('__') ? content : null;
}

let newer: string | null = null;
let isHeld = false;
/** What would be lost by loading anew: each says whether there is something. */
const holding = new Set<() => boolean>();

/** Registers something that may hold what a reload would lose; gives a function that ends that. */
export function holds(unsaved: () => boolean): () => void {
  holding.add(unsaved);
  return () => void holding.delete(unsaved);
}

function reloadWhenFree(): void {
  const isFree = !isHeld && ![...holding].some(held => held());
  if (isFree && newer && sessionStorage.getItem(LOADED) !== newer) {
    // Once for each build, whatever is wrong with it.
    sessionStorage.setItem(LOADED, newer);
    window.location.reload();
  } else setTimeout(reloadWhenFree, LOOK_MS);
}

/** Looks at an answer of the server for the build that it gives out. */
export function noteBuild(response: Response): void {
  const given = response.headers.get(BUILD_HEADER);
  if (newer || !given || typeof document === 'undefined') return;
  const mine = own();
  if (!mine || mine === given) return;
  newer = given;
  window.addEventListener('pointerdown', () => (isHeld = true), true);
  window.addEventListener('pointerup', () => (isHeld = false), true);
  reloadWhenFree();
}
