import { createStore, type StoreApi } from 'zustand';
import type { Stage } from '../../core/steps/define';
import { nextAlternative, seenFor } from '../../core/treatment/alternatives';
import type { Treatment } from '../../core/treatment/treatment';
import type { UsualStep } from '../../core/treatment/usual-steps';
import type { Against } from '../compare/against';
import {
  comparedWith,
  laid,
  notCompared,
  pressing,
  released,
  withSide,
  workedOn,
  type Compared,
  type Way,
} from '../compare/compared';
import type { Hold } from '../controls/tools';
import { editsOf, type Edits } from '../takes/edits';
import type { TakeSession } from '../takes/session';
import type { Tried } from '../takes/tried';
import { STEP, toggled, type Side } from './side';

/** What the Bench shows of one take, and what changes that. The treatment itself lies in the session. */

/** A question that lies over the Bench. */
export type Dialog =
  { what: 'details' } | { what: 'lay-on'; part: Treatment } | { what: 'area-or-photograph'; file: File };

export interface BenchState {
  /** The step that was chosen last: it may be gone, or put aside, since. */
  picked: string | null;
  /** Steps picked on the tray line for what is done to several. */
  range: readonly string[];
  /** Where the lamp stands, behind how many steps; null at the end, also of a treatment that grows. */
  lampAt: number | null;
  /** What stands beside the picture. */
  side: Side;
  /** What is tried on the picture. */
  tried: Tried | null;
  /** Settings of the chosen step that are held, by their paths. */
  held: Parameters<Hold>[0];
  /** The board of the chosen step lies over the picture. */
  boardOpen: boolean;
  compared: Compared;
  /** The picture alone on the wall. */
  alone: boolean;
  dialog: Dialog | null;
}

/** The Bench of one take; its functions stay the same. */
export interface Bench {
  session: TakeSession;
  store: StoreApi<BenchState>;
  edits: Edits;
  /** The chosen step; of alternatives put aside the one that works in their place. */
  chosen: () => string | null;
  /** The steps that a copy takes: several that were picked, or the chosen one. */
  picked: () => readonly string[];
  /** Chooses a step, whatever stands beside the picture. */
  choose: (step: string | null) => void;
  /** Chooses it, and shows it beside the picture. */
  chooseTray: (step: string) => void;
  pickRange: (steps: readonly string[]) => void;
  setLamp: (at: number) => void;
  setSide: (side: Side) => void;
  /** The way to something beside the picture is pressed: it comes, or goes. */
  toggle: (side: Side) => void;
  toggleTint: () => void;
  toggleAdding: (stage: Stage) => void;
  closeSide: () => void;
  tryOn: (tried: Tried | null) => void;
  hold: Hold;
  openBoard: () => void;
  closeBoard: () => void;
  ask: (dialog: Dialog) => void;
  closeDialog: () => void;
  setAlone: (alone: boolean) => void;
  add: (usual: UsualStep, stage: Stage) => void;
  addBeside: (usual: UsualStep | null, step: string) => void;
  /** Puts the next alternative of the chosen step to work; false where it has none. */
  alternate: (by: -1 | 1) => boolean;
  /** What has been laid on: a step of it is chosen, all of it lit. */
  laid: (step: string | null) => void;
  press: (way: Way) => void;
  release: () => void;
  compareWith: (other: Against) => void;
  compareSide: (which: 0 | 1, against: Against) => void;
  swapSides: () => void;
  setLine: (line: number) => void;
  layDown: (down: boolean) => void;
  /** Follows the session, until what it returns is called. */
  follow: () => () => void;
}

const nothingHeld: BenchState['held'] = [];
const noRange: BenchState['range'] = [];

/** Several steps that were picked, as far as they are there; else the chosen one. */
export function pickedOf(
  { steps }: Treatment,
  range: readonly string[],
  chosen: string | null,
): readonly string[] {
  const there = range.filter(id => steps.some(s => s.id === id));
  return there.length > 1 ? there : chosen === null ? [] : [chosen];
}

export function createBench(session: TakeSession): Bench {
  const now = () => session.state().treatment;
  const store = createStore<BenchState>(() => ({
    picked: now().steps.at(-1)?.id ?? null,
    range: noRange,
    lampAt: null,
    side: STEP,
    tried: null,
    held: nothingHeld,
    boardOpen: false,
    compared: notCompared,
    alone: false,
    dialog: null,
  }));
  const { getState: state, setState: set } = store;

  // What belongs to the step that was chosen goes with it.
  const choose = (picked: string | null) =>
    set(was => (was.picked === picked ? was : { picked, held: nothingHeld, boardOpen: false }));
  const setSide = (side: Side) => set(was => (was.side === side ? was : { side, tried: null }));
  const toggle = (side: Side) => setSide(toggled(state().side, side));
  const chosen = () => seenFor(now(), state().picked);
  const picked = () => pickedOf(now(), state().range, chosen());
  const compare = (change: (of: Compared) => Compared) =>
    set(was => {
      const compared = change(was.compared);
      return compared === was.compared ? was : { compared };
    });
  const edits = editsOf(session, choose);

  return {
    session,
    store,
    edits,
    chosen,
    picked,
    choose,
    chooseTray: step => {
      choose(step);
      set({ range: noRange });
      setSide(STEP);
    },
    pickRange: range => set({ range }),
    setLamp: at => set({ lampAt: at >= now().steps.length ? null : at }),
    setSide,
    toggle,
    toggleTint: () => toggle({ what: 'tint' }),
    toggleAdding: stage => toggle({ what: 'add', stage }),
    closeSide: () => setSide(STEP),
    tryOn: tried => set({ tried }),
    hold: held => set({ held: held.length ? held : nothingHeld }),
    openBoard: () => set({ boardOpen: true }),
    closeBoard: () => set({ boardOpen: false }),
    ask: dialog => set({ dialog }),
    closeDialog: () => set({ dialog: null }),
    setAlone: alone => set({ alone }),
    add: (usual, stage) => {
      edits.add(usual, stage);
      set({ lampAt: null });
      setSide(STEP);
    },
    addBeside: (usual, step) => {
      edits.addBeside(usual, step);
      set({ lampAt: null });
      setSide(STEP);
    },
    alternate: by => {
      const from = chosen();
      const next = from === null ? null : nextAlternative(now(), from, by);
      if (next === null) return false;
      edits.alternate(next);
      return true;
    },
    laid: step => {
      choose(step);
      set({ range: noRange, lampAt: null });
    },
    press: way => compare(of => pressing(of, way, performance.now())),
    release: () => compare(of => released(of, performance.now())),
    compareWith: other => compare(of => comparedWith(of, other)),
    compareSide: (which, against) => compare(of => withSide(of, which, against)),
    swapSides: () => compare(of => ({ ...of, sides: [of.sides[1], of.sides[0]] })),
    setLine: line => compare(of => ({ ...of, line })),
    layDown: down => compare(of => laid(of, down)),
    follow: () => {
      let shown = now();
      const stop = session.subscribe(() => {
        if (now() === shown) return;
        shown = now();
        compare(workedOn);
      });
      return () => void stop();
    },
  };
}
