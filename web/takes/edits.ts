import type { Stage } from '../../core/steps/define';
import { layOut, showAlternative, trayWith } from '../../core/treatment/alternatives';
import { changeSetting, changeStep, copySteps, nudgeStep, removeSteps } from '../../core/treatment/edit';
import {
  groupAll,
  groupWithBefore,
  leaveGroup,
  nameGroup,
  switchGroup,
  ungroup,
} from '../../core/treatment/groups';
import { sameBeside, setOut, setOutBeside, type UsualStep } from '../../core/treatment/usual-steps';
import type { Treatment } from '../../core/treatment/treatment';
import { countOf, wordFor } from '../../words/words';
import { namesOfAlternatives, nameOfStep } from '../../words/step-names';
import type { TakeSession } from './session';

/**
 * Sets a setting named by its path. `label` names the change for undo when it has come to rest; without one
 * it is still moving.
 */
export interface SetSetting {
  (path: readonly string[], value: unknown, label?: string): void;
  /** The same while a control moves that shows its movement by itself. */
  glide: (path: readonly string[], value: unknown) => void;
}

/** What can be done with a whole step, by the names of its menu. */
export type StepAction =
  'left' | 'right' | 'copy' | 'take' | 'group' | 'leave' | 'beside' | 'apart' | 'remove';

/** What is done with the group that a step stands in. */
export interface GroupActions {
  name: (stepId: string, name: string) => void;
  enable: (stepId: string, on: boolean) => void;
  dissolve: (stepId: string) => void;
}

/** Copies steps to the clipboard. */
export type CopySteps = (stepIds: readonly string[]) => void;

/** What is done to the steps of a take, each with its name in the history; the functions stay the same. */
export interface Edits {
  /** The newest treatment. */
  now: () => Treatment;
  preview: (treatment: Treatment) => void;
  /** The same from a control that shows its movement by itself. */
  glide: (treatment: Treatment) => void;
  /** @param apart it is undone alone, whatever follows under the same name */
  commit: (treatment: Treatment, label: string, apart?: boolean) => void;
  /**
   * Makes an edit that must be looked for first, of the treatment as it is when it is found; see `TakeSession.editWhenFound`.
   * @param edit null where there is nothing to change
   */
  editWhenFound: <T>(
    label: string,
    find: Promise<T>,
    edit: (found: T, now: Treatment) => Treatment | null,
  ) => Promise<void>;
  /** Adds a step as the last of a stage, and chooses it. */
  add: (usual: UsualStep, stage: Stage) => void;
  /** Adds an alternative of a step, a second of it where none is given, and chooses it. */
  addBeside: (usual: UsualStep | null, stepId: string) => void;
  /** Puts an alternative to work. */
  alternate: (stepId: string) => void;
  /** Several at once; what is done to several is one change. */
  remove: (stepIds: readonly string[]) => void;
  toggle: (stepIds: readonly string[]) => void;
  nudge: (stepId: string, by: -1 | 1) => void;
  copy: (stepIds: readonly string[]) => void;
  groupAll: (stepIds: readonly string[]) => void;
  /** Puts a treatment in which a step has moved. */
  place: (treatment: Treatment, stepId: string) => void;
  act: (stepId: string, action: Exclude<StepAction, 'take' | 'beside'>) => void;
  group: GroupActions;
}

/**
 * Edits of a session's newest treatment.
 * @param choose told of the step that is to be gone on with
 */
export function editsOf(session: TakeSession, choose: (step: string | null) => void): Edits {
  const now = () => session.state().treatment;
  const stepOf = (id: string) => now().steps.find(s => s.id === id);
  const nameOf = (id: string) => nameOfStep(stepOf(id));
  const namesOf = (ids: readonly string[]) =>
    ids.length > 1 ? countOf(ids.length, 'step').toLowerCase() : nameOf(ids[0]).toLowerCase();
  const commit = (next: Treatment, label: string, apart = false) => session.commit(next, label, { apart });
  const made: Edits = {
    now,
    preview: next => session.preview(next),
    glide: next => session.glide(next),
    commit,
    editWhenFound: (label, find, edit) =>
      session.editWhenFound(label, find, found => {
        const next = edit(found, now());
        if (next) commit(next, label);
      }),
    add: (usual, stage) => {
      const { begun, step } = setOut(now(), usual, stage);
      commit(begun, `Add ${(usual.name ?? wordFor(usual.kind)).toLowerCase()}`);
      choose(step);
    },
    addBeside: (usual, id) => {
      const { begun, step } = usual ? setOutBeside(now(), usual, id) : sameBeside(now(), id);
      commit(begun, `Add an alternative of ${nameOf(id).toLowerCase()}`);
      choose(step);
    },
    alternate: id => {
      const shown = showAlternative(now(), id);
      if (shown === now()) return;
      const tray = trayWith(shown, id);
      const name = namesOfAlternatives(tray)[tray.findIndex(s => s.id === id)];
      commit(shown, `${name} instead`);
      choose(id);
    },
    remove: ids => {
      const { steps } = now();
      const i = steps.findIndex(s => ids.includes(s.id));
      const rest = steps.filter(s => !ids.includes(s.id));
      const mates = ids.length === 1 ? trayWith(now(), ids[0]).filter(s => !ids.includes(s.id)) : [];
      const next = mates[0] ?? rest.find(s => steps.indexOf(s) > i) ?? rest.at(-1);
      commit(removeSteps(now(), ids), `Remove ${namesOf(ids)}`);
      choose(next?.id ?? null);
    },
    toggle: ids => {
      const isOn = ids.some(id => stepOf(id)?.enabled);
      const switched = ids.reduce((of, id) => changeStep(of, id, { enabled: !isOn }), now());
      commit(
        switched,
        ids.length > 1
          ? `${countOf(ids.length, 'step')} ${isOn ? 'off' : 'on'}`
          : `${nameOf(ids[0])} ${isOn ? 'off' : 'on'}`,
      );
    },
    nudge: (id, by) => {
      const moved = nudgeStep(now(), id, by);
      if (moved !== now()) commit(moved, `Move ${nameOf(id).toLowerCase()}`);
    },
    copy: ids => {
      const { treatment, copies } = copySteps(now(), ids);
      commit(treatment, `Copy ${namesOf(ids)}`);
      choose(copies[0]);
    },
    groupAll: ids => {
      const grouped = groupAll(now(), ids);
      if (grouped !== now()) commit(grouped, `Group ${namesOf(ids)}`);
    },
    place: (next, id) => commit(next, `Move ${nameOf(id).toLowerCase()}`),
    act: (id, action) => {
      const name = nameOf(id).toLowerCase();
      if (action === 'remove') made.remove([id]);
      else if (action === 'copy') made.copy([id]);
      else if (action === 'group') commit(groupWithBefore(now(), id), `Group ${name}`);
      else if (action === 'apart') commit(layOut(now(), id), `Lay out the alternatives of ${name}`);
      else if (action === 'leave') commit(leaveGroup(now(), id), `Ungroup ${name}`);
      else made.nudge(id, action === 'left' ? -1 : 1);
    },
    group: {
      name: (id, name) => commit(nameGroup(now(), id, name), `Name group ${name}`),
      enable: (id, on) => commit(switchGroup(now(), id, on), `Group ${on ? 'on' : 'off'}`),
      dissolve: id => commit(ungroup(now(), id), 'Ungroup'),
    },
  };
  return made;
}

/** Sets settings of the chosen step. */
export function settingOf(session: TakeSession, chosen: string | null): SetSetting {
  const changed = (path: readonly string[], value: unknown): Treatment =>
    chosen === null
      ? session.state().treatment
      : changeSetting(session.state().treatment, chosen, path, value);
  const set = (path: readonly string[], value: unknown, label?: string) => {
    const next = changed(path, value);
    const of = next.steps.find(s => s.id === chosen);
    if (!of) return;
    if (label === undefined) session.preview(next);
    else session.commit(next, `${nameOfStep(of)} ${label}`);
  };
  return Object.assign(set, {
    glide: (path: readonly string[], value: unknown) => session.glide(changed(path, value)),
  });
}
