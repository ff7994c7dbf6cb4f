import { useCallback, useMemo, useState } from 'react';
import type { Treatment } from '../../core/treatment/treatment';
import { useKeys } from '../app/useKeys';
import type { Size } from '../../words/area-settings';
import type { Setting } from '../../words/setting';
import { settingsOfStep } from '../../words/step-settings';
import { firstRange, rowsOf, valuesOf } from './ranges';

/** A setting that is tried, and between what. */
export interface Axis {
  setting: Setting;
  values: readonly (number | string)[];
  from: number;
  to: number;
  count: number;
}

/** How an axis was set in place, where it was. */
interface Chosen {
  name: string;
  from?: number;
  to?: number;
  count?: number;
}

/** One place of the strip: what is tried there. */
export interface Cell {
  treatment: Treatment;
  /** The settings that are tried, by the names of their controls. */
  tried: readonly { name: string; value: number | string }[];
  words: readonly string[];
  /** It is as the take is. */
  isNow: boolean;
  label: string;
}

export interface TestStrip {
  axes: readonly Axis[];
  cells: readonly Cell[];
  columns: number;
  rows: number;
  /** Begins with a setting by the name of its control; with another one it becomes a grid; with the same it ends. */
  begin: (name: string) => void;
  change: (which: number, part: Partial<Omit<Chosen, 'name'>>) => void;
  take: (cell: Cell) => void;
  putAway: () => void;
  /** Names of what can be tried of the chosen step. */
  names: () => string[];
}

const COUNT = 7;
/** Of a grid, across and down. */
const GRID = [5, 3] as const;
/** Bands at least as wide can be told apart. */
const MOST_IN_ROW = 9;

function axisOf(setting: Setting, chosen: Chosen, standard: number): Axis {
  const count = chosen.count ?? standard;
  if (setting.type === 'choice') {
    return { setting, values: setting.options, from: 0, to: 0, count: setting.options.length };
  }
  const first = firstRange(setting.field, setting.value);
  const from = chosen.from ?? first.from;
  const to = chosen.to ?? first.to;
  return { setting, from, to, count, values: valuesOf(setting.field, setting.value, from, to, count) };
}

const tryOn = ({ setting }: Axis, treatment: Treatment, value: number | string): Treatment =>
  setting.type === 'number'
    ? setting.apply(treatment, Number(value))
    : setting.apply(treatment, String(value));
const wordOf = ({ setting }: Axis, value: number | string): string =>
  setting.type === 'number' ? setting.written(Number(value)) : setting.written(String(value));

/** The name of the control that has the focus, or that the pointer rests on. */
export function controlInHand(): string | null {
  const of = (element: Element | null | undefined) =>
    element?.closest<HTMLElement>('[data-control]')?.dataset.control ?? null;
  return of(document.activeElement) ?? of([...document.querySelectorAll(':hover')].at(-1));
}

/**
 * Values of a setting side by side on the picture, or of two as a grid. The take stays as it is until one is taken.
 * @param treatment the newest one at rest
 */
export function useTestStrip(
  picture: Size,
  treatment: Treatment,
  stepId: string | null,
  commit: (treatment: Treatment, label: string) => void,
  isOn: boolean,
): TestStrip {
  const [tried, setTried] = useState<{ step: string; axes: readonly Chosen[] } | null>(null);
  const putAway = useCallback(() => setTried(null), []);
  const step = treatment.steps.find(s => s.id === stepId);
  const axes = useMemo((): readonly Axis[] => {
    if (!tried || !step || tried.step !== step.id) return [];
    const all = settingsOfStep(treatment, step, picture);
    const found = tried.axes.flatMap(chosen => {
      const setting = all.find(({ name }) => name === chosen.name);
      return setting ? [{ setting, chosen }] : [];
    });
    const isGrid = found.length > 1;
    return found.map(({ setting, chosen }, i) => axisOf(setting, chosen, isGrid ? GRID[i] : COUNT));
  }, [treatment, step, tried, picture]);
  const { cells, columns, rows } = useMemo(() => {
    if (axes.length === 0) return { cells: [], columns: 0, rows: 0 };
    const [first, second] = axes;
    const values: readonly (readonly (number | string)[])[] = second
      ? second.values.flatMap(down => first.values.map(across => [across, down]))
      : first.values.map(value => [value]);
    const made = values.map((each): Cell => {
      const of = each.reduce<Treatment>((all, value, i) => tryOn(axes[i], all, value), treatment);
      const words = each.map((value, i) => wordOf(axes[i], value));
      return {
        treatment: of,
        tried: each.map((value, i) => ({ name: axes[i].setting.name, value })),
        words,
        isNow: each.every((value, i) => value === axes[i].setting.value),
        label: axes.map(({ setting }, i) => `${setting.label} ${words[i]}`).join(', '),
      };
    });
    const shape = second
      ? { columns: first.values.length, rows: second.values.length }
      : rowsOf(made.length, first.setting.type === 'number' ? MOST_IN_ROW : undefined);
    return { cells: made, ...shape };
  }, [axes, treatment]);

  const begin = useCallback(
    (name: string) => {
      if (stepId === null) return;
      setTried(now => {
        const open = now?.step === stepId ? now.axes : [];
        if (open.some(axis => axis.name === name)) {
          const left = open.filter(axis => axis.name !== name);
          return left.length ? { step: stepId, axes: left } : null;
        }
        return { step: stepId, axes: [...open, { name }].slice(-2) };
      });
    },
    [stepId],
  );
  const change = useCallback(
    (which: number, part: Partial<Omit<Chosen, 'name'>>) =>
      setTried(now => now && { ...now, axes: now.axes.map((a, i) => (i === which ? { ...a, ...part } : a)) }),
    [],
  );
  const take = useCallback(
    ({ treatment: made, isNow, label }: Cell) => {
      setTried(null);
      if (!isNow) commit(made, label);
    },
    [commit],
  );
  const names = useCallback(
    () => (step ? settingsOfStep(treatment, step, picture).map(({ name }) => name) : []),
    [treatment, step, picture],
  );
  useKeys(
    {
      strip: () => {
        const all = names();
        const inHand = controlInHand();
        // A control in hand that is no setting has no strip; without one in hand it is the strip that hangs, or the strength.
        const name = inHand ?? axes[0]?.setting.name ?? all[0];
        if (!all.includes(name)) return false;
        begin(name);
      },
    },
    isOn,
  );
  useKeys({ giveUp: putAway }, axes.length > 0);
  return { axes, cells, columns, rows, begin, change, take, putAway, names };
}
