import { useCallback, useMemo, useState } from 'react';
import { stages, type Stage } from '../../core/steps/define';
import { trayWith } from '../../core/treatment/alternatives';
import type { Step, Treatment } from '../../core/treatment/treatment';
import {
  sameBeside,
  setOut,
  setOutBeside,
  usualSteps,
  type UsualStep,
} from '../../core/treatment/usual-steps';
import { isFound } from '../app/found';
import { tell } from '../app/notices';
import { useKeys } from '../app/useKeys';
import { wordFor } from '../../words/words';
import type { PictureInfo } from '../engine/tiles';
import { CardGrid } from '../print/CardGrid';
import { PictureCard } from '../print/PictureCard';
import { nameOfStep } from '../../words/step-names';
import type { Tried } from '../takes/tried';
import { useTrying } from '../print/useTrying';
import { BoardHead } from '../ui/board-head';
import { Find } from '../ui/find';
import { useSame } from '../app/useSame';

const nameOf = ({ name, kind }: UsualStep) => name ?? wordFor(kind);

/** A second of a step, as its alternative. */
const SAME = 'the same again';

/** What may be added: the usual steps; beside another step also that once more. */
function choicesOf(stage: Stage, beside: Step | undefined): UsualStep[] {
  const usual = usualSteps(stage);
  if (!beside) return usual;
  const same = { key: SAME, kind: beside.kind, name: 'The same again', group: 'To set otherwise', stage };
  return [{ ...same, words: 'copy double second', settings: {} }, ...usual];
}

/** What each of them makes of a treatment, as far as there is room for it. */
function madeOf(choices: readonly UsualStep[], treatment: Treatment, stage: Stage, beside: Step | undefined) {
  const of = new Map<string, Treatment>();
  try {
    for (const usual of choices) {
      const { tried } = !beside
        ? setOut(treatment, usual, stage)
        : usual.key === SAME
          ? sameBeside(treatment, beside.id)
          : setOutBeside(treatment, usual, beside.id);
      of.set(usual.key, tried);
    }
  } catch (error) {
    // A treatment that is full has room for none of them.
    if (!(error instanceof RangeError)) throw error;
  }
  return of;
}

/** How many steps all of them have in common: those that lie before the new one. */
function sharedOf({ steps }: Treatment, stage: Stage, beside: Step | undefined): number {
  if (beside) return steps.indexOf(trayWith({ steps }, beside.id)[0]);
  return steps.filter(s => stages.indexOf(s.stage) <= stages.indexOf(stage)).length;
}

/**
 * The steps that there are, as what each makes of this photograph: what is pointed at shows in the print, a press adds it to a
 * stage, or as an alternative of a step.
 */
export function StepBoard({
  picture,
  treatment,
  stage,
  beside: besideId,
  onTry,
  onAdd,
  onClose,
}: {
  picture: PictureInfo;
  /** The newest treatment at rest. */
  treatment: Treatment;
  stage: Stage;
  /** The step that an alternative is added to; undefined where one is added to the stage. */
  beside: string | undefined;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  /** Null for a second of the step that it is added beside. */
  onAdd: (usual: UsualStep | null) => void;
  onClose: () => void;
}) {
  const [wanted, setWanted] = useState('');
  useKeys({ giveUp: onClose });
  const beside = treatment.steps.find(s => s.id === besideId);
  // What it is set to changes nothing of what there is to add.
  const ofKind = useSame(beside, beside?.kind);
  const all = useMemo(() => choicesOf(stage, ofKind), [stage, ofKind]);
  const made = useMemo(() => madeOf(all, treatment, stage, beside), [all, treatment, stage, beside]);
  const shared = sharedOf(treatment, stage, beside);
  const there = beside ? `beside ${nameOfStep(beside)}` : `to ${wordFor(stage)}`;
  const groups = useMemo(() => {
    const found = new Map<string, UsualStep[]>();
    for (const usual of all) {
      if (!isFound(wanted, `${nameOf(usual)} ${wordFor(usual.kind)} ${usual.group} ${usual.words}`)) continue;
      found.set(usual.group, [...(found.get(usual.group) ?? []), usual]);
    }
    return found;
  }, [all, wanted]);
  const triedOf = useCallback(
    (key: string): Tried | null => {
      const usual = [...groups.values()].flat().find(u => u.key === key);
      const treatment = made.get(key);
      return usual && treatment ? { name: nameOf(usual), treatment, then: `adds it ${there}` } : null;
    },
    [groups, made, there],
  );
  const { at, point } = useTrying(triedOf, onTry);
  const add = (usual: UsualStep) => {
    try {
      onAdd(usual.key === SAME ? null : usual);
    } catch (error) {
      tell({ text: `${nameOf(usual)} cannot be added: ${(error as Error).message}.`, tone: 'problem' });
    }
  };
  const first = [...groups.values()][0]?.[0];
  return (
    <>
      <BoardHead
        title={beside ? 'Add an alternative' : 'Add a step'}
        says={there}
        close="Add none"
        onClose={onClose}
      >
        <form
          onKeyDown={event => {
            if (event.key !== 'ArrowDown') return;
            event.preventDefault();
            event.currentTarget.closest('aside')?.querySelector<HTMLElement>('[data-card]')?.focus();
          }}
          onSubmit={event => {
            event.preventDefault();
            if (first && wanted) add(first);
          }}
        >
          <Find label="Find a step, a toner, a use" value={wanted} onChange={setWanted} isFirst />
        </form>
      </BoardHead>
      <CardGrid
        groups={groups}
        columns={2}
        none="No step is called that. Fewer letters find more."
        card={usual => (
          <PictureCard
            key={usual.key}
            name={nameOf(usual)}
            picture={picture}
            treatment={made.get(usual.key)}
            shared={shared}
            isTried={usual.key === at}
            onTry={on => point(usual.key, on)}
            onTake={() => add(usual)}
          />
        )}
      />
    </>
  );
}
