import { useState } from 'react';
import styled from 'styled-components';
import { stepKind } from '../../core/steps';
import { beneathStep } from '../../core/treatment/beneath';
import { changeStep } from '../../core/treatment/edit';
import type { Step } from '../../core/treatment/treatment';
import { tell } from '../app/notices';
import { wordFor } from '../../words/words';
import { findingInWords } from './finding-words';
import { smallPictures } from '../engine/client';
import { boards } from '../boards';
import { Button } from '../ui/buttons';
import { useTools } from '../controls/tools';

const Offers = styled.section`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  p {
    flex-basis: 100%;
    line-height: 1.45;
  }
  padding: 8px 16px 10px;
  border-top: 1px solid var(--rule);
`;

/** Settings found from the picture, for kinds that can. */
export function Automatic({ onBoard }: { onBoard: () => void }) {
  const { picture, treatment, step, editWhenFound } = useTools();
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<{ of: string; found: object; text: string } | null>(null);
  const { automatic } = stepKind(step.kind)!;
  const able = automatic && (automatic.when?.(step.settings) ?? true);
  const board = boards[step.kind];
  if (!able && !board) return null;
  // It is said of what was found: where that is set otherwise by now, nothing is.
  const isSo =
    said?.of === step.id &&
    Object.entries(said.found).every(
      ([name, value]) =>
        JSON.stringify((step.settings as Record<string, unknown>)[name]) === JSON.stringify(value),
    );
  const find = async () => {
    setBusy(true);
    const look = async () => {
      const { engine } = await smallPictures();
      return engine.automatic(picture, beneathStep(treatment, step.id), step.kind);
    };
    try {
      await editWhenFound(`${wordFor(step.kind)}: automatic`, look(), (found, now) => {
        const newest = now.steps.find(s => s.id === step.id);
        // Removed while it was looked for.
        if (!newest) return null;
        const text = findingInWords(found.said, stepKind(step.kind)!.fields);
        setSaid({ of: step.id, found: found.settings, text });
        const settings = { ...newest.settings, ...found.settings } as Step['settings'];
        return changeStep(now, step.id, { settings });
      });
    } catch (error) {
      tell({ text: `Nothing was found: ${(error as Error).message}`, tone: 'problem' });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Offers>
      {board ? (
        <Button $small onPress={onBoard}>
          {board.name}
        </Button>
      ) : null}
      {able ? (
        <Button $small onPress={() => void find()} isDisabled={busy}>
          {busy ? 'Looking …' : 'Automatic'}
        </Button>
      ) : null}
      {isSo ? <p role="status">{said.text}</p> : null}
    </Offers>
  );
}
