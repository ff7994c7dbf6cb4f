import { useState } from 'react';
import styled from 'styled-components';
import { changeStep } from '../../core/treatment/edit';
import type { Step } from '../../core/treatment/schema';
import { tell } from '../app/notices';
import { wordFor } from '../app/words';
import { smallPictures } from '../engine/client';
import { Button } from '../ui/buttons';
import { useTools } from '../controls/tools';

const Offers = styled.section`
  display: flex;
  gap: 8px;
  padding: 8px 16px 10px;
  border-top: 1px solid var(--rule);
`;

/** Settings found from the picture, for kinds that can. */
export function Automatic({ onChooseMono }: { onChooseMono: () => void }) {
  const { picture, treatment, step, commit } = useTools();
  const [busy, setBusy] = useState(false);
  const able =
    step.kind === 'light' ||
    (step.kind === 'mono' && (step.settings as { method: string }).method === 'response');
  if (!able && step.kind !== 'mono') return null;
  const find = async () => {
    setBusy(true);
    try {
      const { engine } = await smallPictures();
      const at = treatment.steps.findIndex(s => s.id === step.id);
      const beneath = { ...treatment, strength: 1, steps: treatment.steps.slice(0, at) };
      const found =
        step.kind === 'light'
          ? await engine.autoLight(picture, beneath)
          : { response: await engine.autoResponse(picture, beneath) };
      const settings = { ...step.settings, ...found } as Step['settings'];
      commit(changeStep(treatment, step.id, { settings }), `${wordFor(step.kind)}: automatic`);
    } catch (error) {
      tell({ text: `Nothing was found: ${(error as Error).message}`, tone: 'problem' });
    } finally {
      setBusy(false);
    }
  };
  return (
    <Offers>
      {step.kind === 'mono' ? (
        <Button $small onPress={onChooseMono}>
          All conversions
        </Button>
      ) : null}
      {able ? (
        <Button $small onPress={() => void find()} isDisabled={busy}>
          {busy ? 'Looking …' : 'Automatic'}
        </Button>
      ) : null}
    </Offers>
  );
}
