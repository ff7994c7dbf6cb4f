/** Whether the clipboard is that of a field: of text, or of a number. */
export function isOfField({ target }: Event): boolean {
  if (!(target instanceof HTMLElement)) return false;
  if (target instanceof HTMLInputElement) return target.type !== 'range' && target.type !== 'checkbox';
  return target.isContentEditable || /^(TEXTAREA|SELECT)$/.test(target.tagName);
}
