/**
 * Whether a key is meant for a field of text. Number fields take no letters, so the Bench's keys work in
 * them too.
 */
export function isTyping(event: KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName)) return true;
  if (!(target instanceof HTMLInputElement) || target.type !== 'text') return false;
  return target.inputMode !== 'numeric' && target.inputMode !== 'decimal';
}
