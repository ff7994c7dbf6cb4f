import { useCallback, useMemo } from 'react';
import styled from 'styled-components';
import { isReused, stepOf } from '../../core/methods/run';
import type { Page } from '../../core/methods/schema';
import { showAlternative, trayWith } from '../../core/treatment/alternatives';
import { stepKind } from '../../core/steps';
import type { Fields } from '../../core/settings/fields';
import type { Step, Treatment } from '../../core/treatment/treatment';
import { toldOf } from '../../words/method-told';
import { movesInWords } from '../../words/picture-told';
import { namesOfAlternatives, nameOfStep } from '../../words/step-names';
import { settingsOfStep } from '../../words/step-settings';
import { FieldControls } from '../controls/FieldControls';
import { HoldContext, LongEdgeContext, ToolsContext, type Hold } from '../controls/tools';
import { ControlTold } from '../panel/ControlTold';
import { PictureCard } from '../print/PictureCard';
import { useTrying } from '../print/useTrying';
import type { Tried } from '../takes/tried';
import { Button } from '../ui/buttons';
import type { MethodPanelProps } from './method-panel-props';
import { SettingSlider } from './SettingSlider';
import { useMoved } from './useMoved';
import type { Read } from './useReading';

const none: Hold = () => undefined;

/** What is said on a page, and what can be tried on it. */
export function PageBody({
  page,
  read,
  beneath,
  isLaid: laid,
  ...props
}: MethodPanelProps & {
  page: Page;
  read: Read | null;
  beneath: Treatment;
  isLaid: boolean;
}) {
  const { method, treatment, calm, picture } = props;
  const step = laid ? stepOf(method, page, treatment) : undefined;
  const moved = useMoved(picture, beneath, calm);
  const told = useMemo(() => read && toldOf(page.why, page, read.reading, read.facts), [read, page]);
  return (
    <>
      <p>{told ?? 'Reading the picture …'}</p>
      {isReused(method, page, calm) ? (
        <p className="small">It has been done here already: the step that is there is gone on with.</p>
      ) : null}
      {step ? <Trying {...props} page={page} step={step} /> : null}
      {page.deed.does === 'series' ? <OfSeries {...props} page={page} /> : null}
      {page.try ? <p className="small">{page.try}</p> : null}
      <p className="small" role="status">
        {moved && laid && beneath !== calm ? movesInWords(moved) : ''}
      </p>
    </>
  );
}

/** The controls of a page. */
function Trying({
  picture,
  treatment,
  calm,
  edits,
  setOf,
  onTry,
  pick,
  page,
  step,
}: MethodPanelProps & { page: Page; step: Step }) {
  const fields: Fields = useMemo(() => {
    const all: Fields = stepKind(step.kind)!.fields;
    return Object.fromEntries(Object.entries(all).filter(([name]) => page.fields.includes(name)));
  }, [step.kind, page.fields]);
  const set = useMemo(() => setOf(step.id), [setOf, step.id]);
  const calmStep = calm.steps.find(s => s.id === step.id);
  const settings = settingsOfStep(treatment, step, picture);
  const numbers = page.numbers.flatMap(({ name, label }) => {
    const setting = settings.find(s => s.name === name);
    return setting?.type === 'number' ? [{ setting, label }] : [];
  });
  const tools = {
    picture,
    treatment,
    step,
    commit: edits.commit,
    editWhenFound: edits.editWhenFound,
    preview: edits.preview,
    tryOn: onTry,
    pick,
  };
  return (
    <>
      <h3>{nameOfStep(step)}</h3>
      {calmStep ? <ControlTold picture={picture} treatment={calm} step={calmStep} /> : null}
      {page.deed.does === 'choose' ? (
        <ChooseAmong picture={picture} calm={calm} step={step} onTry={onTry} onShow={edits.alternate} />
      ) : null}
      <div>
        {numbers.map(({ setting, label }) => (
          <SettingSlider key={setting.name} setting={setting} label={label} edits={edits} />
        ))}
      </div>
      {page.fields.length ? (
        <ToolsContext.Provider value={tools}>
          <HoldContext.Provider value={none}>
            <LongEdgeContext.Provider value={Math.max(picture.width, picture.height)}>
              <FieldControls key={step.id} fields={fields} values={{ ...step.settings }} set={set} />
            </LongEdgeContext.Provider>
          </HoldContext.Provider>
        </ToolsContext.Provider>
      ) : null}
    </>
  );
}

const Cards = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 10px;
`;

/** The alternatives of a tray as pictures: what is pointed at shows in the print, a press puts it to work. */
function ChooseAmong({
  picture,
  calm,
  step,
  onTry,
  onShow,
}: Pick<MethodPanelProps, 'picture' | 'calm' | 'onTry'> & { step: Step; onShow: (stepId: string) => void }) {
  const tray = useMemo(() => trayWith(calm, step.id), [calm, step.id]);
  const made = useMemo(() => {
    const names = namesOfAlternatives(tray);
    return tray.map(({ id, alternative }, i) => ({
      id,
      name: names[i],
      isChosen: !alternative?.aside,
      treatment: showAlternative(calm, id),
    }));
  }, [tray, calm]);
  const triedOf = useCallback(
    (key: string): Tried | null => {
      const found = made.find(({ id, isChosen }) => id === key && !isChosen);
      return found ? { name: found.name, treatment: found.treatment, then: 'puts it to work' } : null;
    },
    [made],
  );
  const { at, point } = useTrying(triedOf, onTry);
  return (
    <Cards role="group" aria-label="Choose one">
      {made.map(({ id, name, isChosen, treatment }) => (
        <PictureCard
          key={id}
          name={name}
          picture={picture}
          treatment={treatment}
          isTried={id === at}
          isChosen={isChosen}
          onTry={on => point(id, on)}
          onTake={() => {
            point(id, false);
            onShow(id);
          }}
        />
      ))}
    </Cards>
  );
}

/** What goes on with the series. */
function OfSeries({ method, page, treatment, sharing, onSheet }: MethodPanelProps & { page: Page }) {
  const { deed } = page;
  if (deed.does !== 'series') return null;
  if (deed.to === 'sheet') {
    return (
      <div className="act">
        <Button onPress={onSheet}>To the sheet</Button>
      </div>
    );
  }
  const steps = deed.of.flatMap(key => {
    const found = stepOf(
      method,
      method.pages.find(p => p.key === key)!,
      treatment,
    );
    return found ? [found] : [];
  });
  const shared = steps.map(step => sharing.lookOf(step)).find(look => look !== undefined);
  return (
    <div className="act">
      {shared ? (
        <p role="status">The series shares it as “{shared.name}”.</p>
      ) : (
        <Button
          isDisabled={steps.length === 0}
          onPress={() =>
            sharing.share(
              nameOfStep(steps[0]),
              steps.map(s => s.id),
            )
          }
        >
          Share it in the series
        </Button>
      )}
    </div>
  );
}
