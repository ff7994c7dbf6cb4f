import type { NamePart } from './send-outs';

/** The names of files that go out. */

/** A part of a file name: letters and digits of any script, joined by hyphens. */
export const slug = (text: string) =>
  text
    .toLowerCase()
    .normalize('NFKC')
    .replace(/['’]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 60);

/** What a name may be put together from. */
export interface Named {
  series: string;
  /** The photograph's place in its series, from 1. */
  number: number;
  title: string;
  letter: string;
  /** The name of the original's file. */
  original: string;
  /** The day on which it goes out. */
  date: Date;
}

/** `saltmarsh-ferry-05-quinces-b.jpg`: its parts in the order of the settings. */
export function fileNameOf(of: Named, names: readonly NamePart[], ending: string): string {
  const parts = {
    series: () => slug(of.series),
    number: () => String(of.number).padStart(2, '0'),
    title: () => slug(of.title),
    take: () => of.letter.toLowerCase(),
    date: () => of.date.toISOString().slice(0, 10),
    original: () => slug(of.original.replace(/\.[^.]*$/, '')),
  };
  const name = names
    .map(part => parts[part]())
    .filter(Boolean)
    .join('-');
  return `${name || String(of.number).padStart(2, '0')}.${ending}`;
}

/** Names of which each is another, whatever case a disk knows: `name.jpg`, `name-2.jpg`. */
export function eachOnce(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map(name => {
    // Of `a.treatment.json` all that follows the name is its ending.
    const dot = name.indexOf('.') < 0 ? name.length : name.indexOf('.');
    let own = name;
    for (let n = 2; taken.has(own.toLowerCase()); n++) own = `${name.slice(0, dot)}-${n}${name.slice(dot)}`;
    taken.add(own.toLowerCase());
    return own;
  });
}
