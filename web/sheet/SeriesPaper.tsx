import { Plus } from 'lucide-react';
import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { currentTake } from '../app/api';
import { LinkButton } from '../ui/buttons';
import { InPlace } from '../ui/inplace';
import { TakePicture } from '../ui/TakePicture';
import type { SheetDeeds } from './useSheetDeeds';

const Column = styled.div`
  display: flex;
  flex-direction: column;
  gap: 16px;
  min-height: 0;
  padding: 14px 0 20px;
`;

const Add = styled(AriaButton)`
  flex: none;
  height: 84px;
  border: 1px dashed currentColor;
  border-radius: 2px;
  color: var(--wall-ink);
  display: grid;
  place-items: center;
  align-content: center;
  gap: 5px;
  font-weight: 500;
  &[data-hovered] {
    border-style: solid;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--wall-ink);
    outline-offset: 3px;
  }
`;

const Paper = styled.section`
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  padding: 18px 18px 16px;
  min-height: 0;
  overflow: hidden auto;
  scrollbar-width: thin;
  dl {
    margin-top: 14px;
    display: grid;
    grid-template-columns: 1fr auto;
    row-gap: 5px;
    border-top: 1px solid var(--rule);
    padding-top: 12px;
  }
  dt {
    color: var(--ink-2);
  }
  dd {
    font-weight: 600;
  }
  figure {
    margin-top: 16px;
  }
  figure img {
    display: block;
    width: 176px;
    height: 117px;
    object-fit: cover;
  }
  figcaption {
    display: flex;
    justify-content: space-between;
    padding-top: 7px;
    font-size: var(--t-small);
    color: var(--ink-2);
  }
  figcaption button {
    color: var(--ink);
  }
`;

const Chosen = styled.div`
  border-top: 1px solid var(--rule);
  margin-top: 14px;
  padding-top: 11px;
  h3 {
    font-size: var(--t-small);
    font-weight: 400;
    color: var(--ink-2);
    margin-bottom: 4px;
  }
  textarea {
    font-weight: 550;
    color: var(--ink);
  }
  textarea + textarea,
  div + div textarea {
    font-weight: 400;
  }
`;

/**
 * What lies beside the prints: a paper that says what the series is called and shows and what the chosen print is called, and
 * the place to lay down more.
 */
export function SeriesPaper({
  series,
  selected,
  deeds,
  onAdd,
}: {
  series: Series;
  selected: readonly Photograph[];
  deeds: SheetDeeds;
  onAdd: () => void;
}) {
  const { photographs } = series;
  const treated = photographs.filter(p => currentTake(p).steps.length > 0).length;
  const cover = photographs.find(p => p.id === series.coverId) ?? photographs[0];
  const one = selected.length === 1 ? selected[0] : null;
  return (
    <Column>
      <Paper aria-label="The series">
        <InPlace
          display
          label="Title of the series"
          value={series.title}
          required
          maxLength={120}
          onChange={title => deeds.changeSeries({ title }, 'Title of the series')}
        />
        <InPlace
          label="Caption"
          value={series.caption}
          placeholder="Say what it shows"
          maxLength={2000}
          multiline
          onChange={caption => deeds.changeSeries({ caption }, 'Caption of the series')}
        />
        <dl>
          <dt>Photographs</dt>
          <dd>{photographs.length}</dd>
          <dt>Treated</dt>
          <dd>{treated}</dd>
          <dt>Takes</dt>
          <dd>{photographs.reduce((sum, p) => sum + p.takes.length, 0)}</dd>
        </dl>
        {one ? (
          <Chosen>
            <h3>No. {photographs.indexOf(one) + 1}</h3>
            <InPlace
              key={`title ${one.id}`}
              label="Title of the photograph"
              value={one.title}
              required
              maxLength={200}
              multiline
              onChange={title => deeds.changePhotograph(one, { title })}
            />
            <InPlace
              key={`caption ${one.id}`}
              label="Caption of the photograph"
              value={one.caption}
              placeholder="A caption for it"
              maxLength={2000}
              multiline
              onChange={caption => deeds.changePhotograph(one, { caption })}
            />
          </Chosen>
        ) : null}
        {cover ? (
          <figure>
            <TakePicture take={currentTake(cover)} edge={480} />
            <figcaption>
              <span>Cover</span>
              {one && one !== cover ? (
                <LinkButton onPress={() => deeds.changeSeries({ coverId: one.id }, 'Cover')}>
                  Take the selected one
                </LinkButton>
              ) : null}
            </figcaption>
          </figure>
        ) : null}
      </Paper>
      <Add onPress={onAdd}>
        <Plus aria-hidden="true" size={18} />
        Add photographs
      </Add>
    </Column>
  );
}
