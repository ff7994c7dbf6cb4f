import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/treatment';
import { sendCarried } from '../engine/carried';
import type { Laying } from '../../core/treatment/laying';
import { stepKinds, type Kind } from '../../core/steps';
import type { Batch } from '../../contract/batches';
import type { SeriesLook } from '../../contract/shared-looks';
import type { Photograph } from '../../contract/photographs';
import { getTake } from '../../contract/takes';
import { call, currentTake } from '../app/api';
import { tell } from '../app/notices';
import { useBeginBatch, useSharedLooks } from '../app/queries';
import { countOf, stepsInWords, wordFor } from '../../words/words';
import { HowLaid } from '../laying/HowLaid';
import { useLookList } from '../laying/useLookList';
import { Button, Segments } from '../ui/buttons';
import { Dialog, DialogActions, Picker } from '../ui/overlays';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import { ChooseLook } from './ChooseLook';

const Choices = styled.div`
  display: grid;
  gap: 12px;
  margin-top: 14px;
`;

const none: readonly SeriesLook[] = [];

/** A treatment out of a file. */
interface FromFile {
  name: string;
  treatment: Treatment;
}

/** What is done to the photographs that are chosen; a treatment out of a file is laid on. */
export type Doing = 'carry' | 'look' | 'steps' | FromFile;
type Way = Exclude<Doing, FromFile> | 'file';

const titles: Record<Way, string> = {
  carry: 'Carry a treatment over',
  look: 'Apply a look',
  steps: 'Switch or strengthen steps',
  file: 'Lay on a treatment',
};

/** Asks what is to be done to many photographs, and begins it. */
export function LayOnMany({
  doing: what,
  seriesId,
  chosen,
  photographs,
  onBegun,
  onClose,
}: {
  doing: Doing;
  seriesId: string;
  chosen: readonly Photograph[];
  photographs: readonly Photograph[];
  onBegun: (batch: Batch) => void;
  onClose: () => void;
}) {
  const fromFile = typeof what === 'string' ? null : what;
  const doing: Way = typeof what === 'string' ? what : 'file';
  const begin = useBeginBatch();
  const shared = useSharedLooks(seriesId);
  const [wanted, setWanted] = useState('');
  const list = useLookList(shared.data ?? none, wanted);
  const treated = photographs.filter(p => currentTake(p).steps.length > 0);
  const [from, setFrom] = useState(() => (treated.find(p => !chosen.includes(p)) ?? treated[0])?.id ?? '');
  const [look, setLook] = useState<string>();
  const taken = list.all.find(l => l.key === look);
  const kinds = stepKinds.map(k => k.kind);
  const here = kinds.filter(k => chosen.some(p => currentTake(p).steps.includes(k)));
  const [kind, setKind] = useState<Kind>(here[0] ?? kinds[0]);
  const [change, setChange] = useState<'off' | 'on' | 'strength'>('off');
  const [strength, setStrength] = useState(1);
  const [how, setHow] = useState<Laying['how']>('instead');
  const [into, setInto] = useState<'current' | 'new'>('new');
  const source = photographs.find(p => p.id === from);

  const beginIt = async () => {
    const all = { seriesId, photographs: chosen.map(p => p.id), into };
    const laying = { how, frame: false, painted: false };
    if (fromFile) {
      const { name, treatment } = fromFile;
      await sendCarried(treatment);
      return begin.mutateAsync({ ...all, label: name.slice(0, 120), work: { do: 'lay', laying }, treatment });
    }
    if (doing === 'carry') {
      const { treatment } = await call(getTake, { params: { id: currentTake(source!).id } });
      return begin.mutateAsync({ ...all, label: source!.title, work: { do: 'lay', laying }, treatment });
    }
    if (doing === 'look') {
      const { name, treatment } = taken!;
      const as = { name, strength };
      return begin.mutateAsync({
        ...all,
        label: name,
        work: { do: 'lay', laying: { ...laying, as } },
        treatment,
      });
    }
    const said = { off: 'off', on: 'on', strength: `at ${Math.round(strength * 100)}` }[change];
    const label = `${wordFor(kind)} ${said}`;
    if (change === 'strength')
      return begin.mutateAsync({ ...all, label, work: { do: 'strength', kind, strength } });
    return begin.mutateAsync({ ...all, label, work: { do: 'switch', kind, on: change === 'on' } });
  };

  const strengthen = (name: string) => (
    <Slider
      label="Strength"
      name={name}
      value={strength}
      {...SHARE_OF_ALL}
      onChange={setStrength}
      onChangeEnd={setStrength}
    />
  );
  const shownLaying = useMemo(
    (): Laying => ({ how, frame: false, painted: false, as: { name: 'Look', strength } }),
    [how, strength],
  );
  const isReady = { carry: source !== undefined, look: taken !== undefined, steps: true, file: true }[doing];
  return (
    <Dialog title={titles[doing]} wide={doing === 'look'} onClose={onClose}>
      <p>
        To {countOf(chosen.length, 'photograph').toLowerCase()}.
        {doing === 'steps'
          ? ''
          : ' Each keeps its own frame; what was painted for another picture stays there.'}
      </p>
      <Choices>
        {doing === 'carry' ? (
          treated.length ? (
            <Picker
              label="Treatment of"
              value={from}
              options={treated.map(p => ({
                value: p.id,
                text: `${p.title}, take ${currentTake(p).letter}`,
              }))}
              onChange={setFrom}
            />
          ) : (
            <p>No photograph of this series is treated yet.</p>
          )
        ) : null}
        {fromFile ? (
          <p>
            {fromFile.name}: {stepsInWords(fromFile.treatment.steps.map(s => s.kind))}.
          </p>
        ) : null}
        {doing === 'look' ? (
          <>
            <ChooseLook
              list={list}
              wanted={wanted}
              onWanted={setWanted}
              on={chosen[0]}
              inSeries={photographs.length}
              laying={shownLaying}
              chosen={look}
              onChoose={setLook}
            />
            {strengthen('Strength of the look')}
          </>
        ) : null}
        {doing === 'steps' ? (
          <>
            <Picker
              label="Steps"
              value={kind}
              options={(here.length ? here : kinds).map(k => ({ value: k, text: wordFor(k) }))}
              onChange={setKind}
            />
            <Segments
              label="What becomes of them"
              value={change}
              options={[
                { value: 'off', text: 'Off' },
                { value: 'on', text: 'On' },
                { value: 'strength', text: 'A strength' },
              ]}
              onChange={setChange}
            />
            {change === 'strength' ? strengthen('Strength of the steps') : null}
          </>
        ) : (
          <HowLaid how={how} onChange={setHow} />
        )}
        <Segments
          label="Into which takes"
          value={into}
          options={[
            { value: 'new', text: 'As new takes' },
            { value: 'current', text: 'Into the current takes' },
          ]}
          onChange={setInto}
        />
      </Choices>
      <DialogActions>
        <Button onPress={onClose}>Leave it</Button>
        <Button
          $ink
          isDisabled={!isReady || !chosen.length || begin.isPending}
          onPress={() => {
            beginIt().then(
              batch => {
                onBegun(batch);
                onClose();
              },
              (error: Error) => tell({ text: error.message, tone: 'problem' }),
            );
          }}
        >
          {doing === 'steps' ? 'Do it' : 'Lay on'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
