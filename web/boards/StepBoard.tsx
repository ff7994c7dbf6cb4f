import { useCallback, useMemo, useState } from 'react';
import { stages, type Stage } from '../../core/steps/define';
import type { Treatment } from '../../core/treatment/schema';
import { setOut, usualSteps, type UsualStep } from '../../core/treatment/usual-steps';
import { isFound } from '../app/found';
import { tell } from '../app/notices';
import { useKeys } from '../app/useKeys';
import { wordFor } from '../app/words';
import type { PictureInfo } from '../engine/tiles';
import { CardGrid } from '../print/CardGrid';
import { PictureCard } from '../print/PictureCard';
import type { Tried } from '../takes/tried';
import { useTrying } from '../print/useTrying';
import { BoardHead } from '../ui/board-head';
import { Find } from '../ui/find';

const nameOf = ({ name, kind }: UsualStep) => name ?? wordFor(kind);

/** The steps that there are, as what each makes of this photograph: what is pointed at shows in the print, a press adds it. */
export function StepBoard({
  picture,
  treatment,
  stage,
  onTry,
  onAdd,
  onClose,
}: {
  picture: PictureInfo;
  /** The newest treatment at rest. */
  treatment: Treatment;
  stage: Stage;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onAdd: (usual: UsualStep) => void;
  onClose: () => void;
}) {
  const [wanted, setWanted] = useState('');
  useKeys({ giveUp: onClose });
  const all = useMemo(() => usualSteps(stage), [stage]);
  const made = useMemo(() => {
    const of = new Map<string, Treatment>();
    try {
      for (const usual of all) of.set(usual.key, setOut(treatment, usual, stage).tried);
    } catch (error) {
      // A treatment that is full has room for none of them.
      if (!(error instanceof RangeError)) throw error;
    }
    return of;
  }, [all, treatment, stage]);
  // All have the steps before the new one in common.
  const shared = treatment.steps.filter(s => stages.indexOf(s.stage) <= stages.indexOf(stage)).length;
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
      return usual && treatment
        ? { name: nameOf(usual), treatment, then: `adds it to ${wordFor(stage)}` }
        : null;
    },
    [groups, made, stage],
  );
  const { at, point } = useTrying(triedOf, onTry);
  const add = (usual: UsualStep) => {
    try {
      onAdd(usual);
    } catch (error) {
      tell({ text: `${nameOf(usual)} cannot be added: ${(error as Error).message}.`, tone: 'problem' });
    }
  };
  const first = [...groups.values()][0]?.[0];
  return (
    <>
      <BoardHead title="Add a step" says={`to ${wordFor(stage)}`} close="Add none" onClose={onClose}>
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
