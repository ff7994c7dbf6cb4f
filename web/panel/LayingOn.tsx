import { memo, useState } from 'react';
import styled from 'styled-components';
import { mixNames } from '../../core/colour/mixes';
import { isWhole } from '../../core/masks/reach';
import { changeStep } from '../../core/treatment/edit';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { wordFor } from '../../words/words';
import { LinkButton } from '../ui/buttons';
import { Fold } from '../ui/fold';
import { Picker } from '../ui/overlays';
import { ReachControl } from '../controls/ReachControl';
import { nameOfStep } from '../../words/step-names';

const Laying = styled.section`
  padding: 6px 16px 8px;
  border-top: 1px solid var(--rule);
  .mix {
    display: grid;
    grid-template-columns: 72px 1fr;
    column-gap: 10px;
    align-items: center;
    height: 34px;
    color: var(--ink-2);
  }
`;

/** How the step is laid on: its mix, tried on the picture while pointed at, and the tones that it reaches. */
export const LayingOn = memo(function LayingOn({
  treatment,
  step,
  onPreview,
  onCommit,
}: {
  treatment: Treatment;
  step: Step;
  onPreview: (treatment: Treatment) => void;
  onCommit: (treatment: Treatment, label: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const change = (part: Partial<Step>) => changeStep(treatment, step.id, part);
  const name = nameOfStep(step);
  const { own, beneath } = step.reach;
  const limited = ![own, beneath].every(isWhole);
  const reach = (part: Partial<Step['reach']>, done: boolean) => {
    const next = change({ reach: { ...step.reach, ...part } });
    if (done) onCommit(next, `${name} reach`);
    else onPreview(next);
  };
  return (
    <Laying>
      <div className="mix">
        <span aria-hidden="true" data-tells="Mix">
          Mix
        </span>
        <Picker
          label="Mix"
          value={step.mix}
          options={mixNames.map(m => ({ value: m, text: wordFor(m) }))}
          onChange={mix => onCommit(change({ mix }), `${name} mix`)}
          onTry={mix => onPreview(change({ mix }))}
        />
      </div>
      <Fold open={open} onToggle={() => setOpen(!open)}>
        <span data-word="Reach">Reach</span>
        <small>{limited ? 'Some tones' : 'All tones'}</small>
      </Fold>
      {open ? (
        <>
          <ReachControl label="Its own tones" range={own} onChange={(r, done) => reach({ own: r }, done)} />
          <ReachControl
            label="Tones beneath"
            range={beneath}
            onChange={(r, done) => reach({ beneath: r }, done)}
          />
          {limited ? (
            <LinkButton onPress={() => reach({ own: [0, 0, 1, 1], beneath: [0, 0, 1, 1] }, true)}>
              Reach all tones
            </LinkButton>
          ) : null}
        </>
      ) : null}
    </Laying>
  );
});
