/** Whether a text has all the words that are looked for, or beginnings of them, in any order and case. */
export function isFound(wanted: string, text: string): boolean {
  const there = text.toLowerCase();
  return wanted
    .toLowerCase()
    .split(/\s+/)
    .every(word => there.includes(word));
}
