/** The menu of a step is that of its panel, which may still be on its way when its tray has just been chosen. */

/** Frames that a panel is waited for: it is built within less. */
const MOST_FRAMES = 120;

/** Opens the menu of a step as soon as the panel answers for it. */
export function openMenuOf(stepId: string, frames = MOST_FRAMES): void {
  const panel = `aside[data-step="${window.CSS.escape(stepId)}"]:not([inert])`;
  const more = document.querySelector<HTMLElement>(`${panel} button[aria-label="More"]`);
  if (more) more.click();
  else if (frames > 0) requestAnimationFrame(() => openMenuOf(stepId, frames - 1));
}
