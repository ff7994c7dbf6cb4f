import { useCallback, useEffect, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import { isLaid, isReused, layPage, pagesFor, stepOf, takeOff, takenUpAt } from '../../core/methods/run';
import type { Method, Page } from '../../core/methods/schema';
import { showAlternative, trayWith } from '../../core/treatment/alternatives';
import { stepKind } from '../../core/steps';
import type { Fields } from '../../core/settings/fields';
import type { Step, Treatment } from '../../core/treatment/schema';
import { toldOf } from '../../words/method-told';
import { movesInWords } from '../../words/picture-told';
import { namesOfAlternatives, nameOfStep } from '../../words/step-names';
import { settingsOfStep } from '../../words/step-settings';
import { tell } from '../app/notices';
import { useKeys } from '../app/useKeys';
import { FieldControls } from '../controls/FieldControls';
import { HoldContext, LongEdgeContext, ToolsContext, type Hold } from '../controls/tools';
import type { PictureInfo } from '../engine/tiles';
import type { Sharing } from '../laying/useSharing';
import { PictureCard } from '../print/PictureCard';
import { useTrying } from '../print/useTrying';
import { ControlTold } from '../panel/ControlTold';
import type { PickColour } from '../print/usePicking';
import type { Tried } from '../takes/tried';
import type { Edits, SetSetting } from '../takes/useEdits';
import { BoardHead } from '../ui/board-head';
import { Button } from '../ui/buttons';
import { leaveAt } from './taken-up';
import { SettingSlider } from './SettingSlider';
import { useMoved } from './useMoved';
import { readingOf, useBare, useReading } from './useReading';

const Pages = styled.ol`
  padding: 0 16px 12px;
  border-bottom: 1px solid var(--rule);
  flex: none;
  button {
    display: flex;
    align-items: center;
    gap: 11px;
    width: 100%;
    height: 29px;
    padding: 0 6px;
    text-align: left;
    color: var(--ink-2);
    border-radius: var(--r-label);
  }
  button:hover {
    background: var(--paper-high);
  }
  i {
    width: 18px;
    height: 18px;
    border-radius: 50%;
    border: 1.5px solid #8a8a8a;
    font: 600 11px/15px var(--sans);
    text-align: center;
    flex: none;
  }
  [data-done] {
    color: var(--ink);
  }
  [data-done] i {
    background: var(--ink);
    border-color: var(--ink);
    color: #fff;
  }
  [aria-current] {
    background: var(--paper-high);
    box-shadow: var(--shade-label);
    color: var(--ink);
    font-weight: 600;
  }
  [aria-current] i {
    background: var(--lamp);
    border-color: var(--lamp-deep);
    color: #1c1c1c;
  }
  @media (max-height: 700px) {
    button {
      height: 25px;
    }
  }
`;

const Body = styled.div`
  overflow: hidden auto;
  scrollbar-width: thin;
  min-height: 0;
  flex: 1;
  padding: 14px 0 12px;
  > p,
  > h3,
  > div {
    padding: 0 16px;
  }
  > p {
    line-height: 1.5;
    font-size: var(--t-lead);
  }
  > p.small {
    font-size: var(--t-body);
    color: var(--ink-2);
    line-height: 1.45;
    margin-top: 12px;
  }
  > h3 {
    font-size: var(--t-body);
    font-weight: 650;
    margin: 13px 0 3px;
  }
  > .act {
    margin-top: 12px;
  }
`;

const Foot = styled.footer`
  flex: none;
  display: flex;
  gap: 8px;
  padding: 10px 16px;
  border-top: 1px solid var(--rule);
  background: var(--paper-high);
  > :first-child {
    margin-right: auto;
  }
`;

const none: Hold = () => undefined;

export interface MethodPanelProps {
  picture: PictureInfo;
  /** The newest treatment, and the one without what is still moving. */
  treatment: Treatment;
  calm: Treatment;
  takeId: string;
  method: Method;
  /** The page that it is at, by its key. */
  at: string;
  edits: Edits;
  setOf: (stepId: string) => SetSetting;
  onAt: (page: string) => void;
  onChoose: (stepId: string) => void;
  onLay: (treatment: Treatment, label: string, stepId?: string) => void;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  pick: PickColour;
  sharing: Sharing;
  onSheet: () => void;
  onClose: () => void;
}

/**
 * Going from page to page: what is pressed while the picture is being read waits for its turn, so that no page is passed by. Each page is
 * set for the newest treatment.
 */
function useTurning({ picture, calm, takeId, method, at, edits, onAt, onChoose, onLay }: MethodPanelProps) {
  const bare = useBare(calm);
  const [pages, setPages] = useState<readonly Page[]>(method.pages);
  const [isBusy, setBusy] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const now = useRef({ pages, at });
  const waiting = useRef(Promise.resolve());
  const isLeft = useRef(false);
  const inTurn = (work: () => Promise<void>) => {
    setBusy(true);
    const mine = waiting.current
      // What was left does nothing more.
      .then(() => (isLeft.current ? undefined : work()))
      .then(
        () => setProblem(null),
        (error: Error) => setProblem(error.message),
      )
      .finally(() => {
        if (waiting.current === mine) setBusy(false);
      });
    waiting.current = mine;
  };
  const placeNow = () =>
    Math.max(
      0,
      now.current.pages.findIndex(p => p.key === now.current.at),
    );

  const show = (to: Page, of: Treatment = edits.now()) => {
    now.current.at = to.key;
    leaveAt(takeId, { method: method.key, page: to.key });
    onAt(to.key);
    const step = stepOf(method, to, of);
    if (step) onChoose(step.id);
  };
  /** Lays what a page does on the newest treatment, set for it as it is, and goes there. */
  const lay = async (to: Page) => {
    const { reading, facts } = await readingOf(picture, edits.now());
    if (isLeft.current) return;
    const made = layPage(method, to, edits.now(), reading, facts);
    const step = stepOf(method, to, made);
    if (made !== edits.now()) onLay(made, `${method.title}: ${to.name.toLowerCase()}`, step?.id);
    show(to, made);
  };
  const takeOffNow = () => {
    const page = now.current.pages[placeNow()];
    const without = takeOff(method, page, edits.now());
    if (without !== edits.now()) edits.commit(without, `${method.title}: without ${page.short}`, true);
  };
  const layNext = async () => {
    const next = now.current.pages.at(placeNow() + 1);
    if (next) await lay(next);
  };

  useEffect(() => {
    isLeft.current = false;
    inTurn(async () => {
      const { facts } = await readingOf(picture, bare);
      const found = pagesFor(method, facts);
      now.current.pages = found;
      setPages(found);
      const page = found[placeNow()];
      // The first page is laid when a method is begun; one that is taken up again is as it was left.
      if (page === found[0] && takenUpAt(method, found, edits.now()) === null) await lay(page);
      else show(page);
    });
    return () => {
      isLeft.current = true;
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once
  }, []);

  return {
    pages,
    place: Math.max(
      0,
      pages.findIndex(p => p.key === at),
    ),
    isBusy,
    problem,
    show,
    lay: (page: Page) => inTurn(() => lay(page)),
    goOn: () => inTurn(layNext),
    skip: () =>
      inTurn(() => {
        takeOffNow();
        return layNext();
      }),
  };
}

/** A method at one of its pages: what it is for, the step that it laid, a control or two, and the way on. */
export function MethodPanel(props: MethodPanelProps) {
  const { picture, treatment, calm, takeId, method, onClose } = props;
  useKeys({ giveUp: onClose });
  const { pages, place, isBusy, problem, show, lay, goOn, skip } = useTurning(props);
  const page = pages[place];
  const next = pages.at(place + 1);
  const beneath = useMemo(() => takeOff(method, page, calm), [method, page, calm]);
  const { read } = useReading(picture, beneath);
  const foot = useRef<HTMLElement>(null);
  const laid = isLaid(method, page, treatment);
  const finish = () => {
    leaveAt(takeId, null);
    onClose();
    tell({ text: `${method.title} is done. What it laid are ordinary steps, each open to change.` });
  };
  // Enter goes on from page to page.
  useEffect(() => foot.current?.querySelector<HTMLElement>('[data-next]')?.focus(), []);

  return (
    <>
      <BoardHead
        title={method.title}
        says={`method, ${place + 1} of ${pages.length}`}
        close="Leave the method"
        onClose={onClose}
      />
      <Pages aria-label={`Pages of ${method.title}`}>
        {pages.map((p, i) => (
          <li key={p.key}>
            <button
              type="button"
              aria-current={i === place ? 'step' : undefined}
              data-done={isLaid(method, p, treatment) || undefined}
              onClick={() => show(p)}
            >
              <i aria-hidden="true">{i + 1}</i>
              {p.name}
            </button>
          </li>
        ))}
      </Pages>
      <Body key={page.key}>
        <PageBody {...props} page={page} read={read} beneath={beneath} isLaid={laid} />
        {problem ? <p role="alert">The photograph could not be read: {problem}</p> : null}
        {!laid && !isBusy && page.deed.does !== 'series' ? (
          <div className="act">
            <Button onPress={() => lay(page)}>Lay {page.short} on</Button>
          </div>
        ) : null}
      </Body>
      <Foot ref={foot}>
        <Button isDisabled={place === 0} onPress={() => show(pages[place - 1])}>
          Back
        </Button>
        <Button isDisabled={!next} onPress={skip}>
          Skip
        </Button>
        <Button $ink data-next onPress={next ? goOn : finish}>
          {next ? `Next: ${next.short}` : 'Done'}
        </Button>
      </Foot>
    </>
  );
}

/** What is said on a page, and what can be tried on it. */
function PageBody({
  page,
  read,
  beneath,
  isLaid: laid,
  ...props
}: MethodPanelProps & {
  page: Page;
  read: ReturnType<typeof useReading>['read'];
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
