/**
 * What has been found in a photograph, by kind and by the name of what was asked, so that nothing is found twice. Those used last are
 * kept; what is forgotten is found again.
 */

/** How many of each kind are kept: what strokes may cover is small, the rest a megabyte or two each. */
const KEPT = { edges: 1, said: 64, belonging: 32, within: 600 } as const;

type Kind = keyof typeof KEPT;

/** What is found of a photograph for a part of a mask: the kinds that are worth telling others of. */
export type Sought = readonly [kind: 'belonging' | 'within', name: string];

export class Memory {
  private readonly kept: Record<Kind, Map<string, unknown>> = {
    edges: new Map(),
    said: new Map(),
    belonging: new Map(),
    within: new Map(),
  };
  /** Told of what is found here. */
  onFound: ((sought: Sought, value: unknown) => void) | null = null;
  /** Called between the parts of finding: throws where what is being found is no longer wanted. */
  pause: () => void = () => undefined;

  knows = ([kind, name]: Sought): boolean => this.kept[kind].has(name);

  /** What goes by that name: known, or found now. */
  remembered<T>(kind: Kind, name: string, find: () => T): T {
    const known = this.kept[kind].get(name) as T | undefined;
    const value = known ?? find();
    this.keep(kind, name, value);
    if (known === undefined && (kind === 'belonging' || kind === 'within'))
      this.onFound?.([kind, name], value);
    return value;
  }

  /** Takes in what was found elsewhere. */
  learn([kind, name]: Sought, value: unknown): void {
    this.keep(kind, name, value);
  }

  private keep(kind: Kind, name: string, value: unknown): void {
    const all = this.kept[kind];
    all.delete(name);
    all.set(name, value);
    if (all.size > KEPT[kind]) all.delete(all.keys().next().value!);
  }
}
