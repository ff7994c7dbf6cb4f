import { useState } from 'react';
import styled from 'styled-components';
import type { SheetSettings } from '../../contract/sheets';
import type { NumberField } from '../../core/settings/fields';
import { countOf, numberInWords } from '../../words/words';
import { units } from '../../words/units';
import type { SentFile } from '../app/api';
import { SheetDialog } from '../out/SheetDialog';
import { WallLabel } from '../print/labels';
import { Button } from '../ui/buttons';
import { TypedNumber } from '../ui/typed-number';
import type { TestStrip } from './useTestStrip';

const Label = styled(WallLabel)`
  left: 31px;
  padding: 0 0 0 12px;
  gap: 8px;
  max-width: calc(100% - 205px);
  color: var(--ink-2);
  b {
    color: var(--ink);
    font-weight: 650;
  }
  > span {
    display: flex;
    align-items: center;
    gap: 6px;
    min-width: 0;
  }
  .name {
    overflow: hidden;
    text-overflow: ellipsis;
  }
`;

const Act = styled(Button)<{ $last?: boolean }>`
  height: 28px;
  border: 0;
  border-left: 1px solid var(--rule);
  border-radius: ${p => (p.$last ? '0 var(--r-label) var(--r-label) 0' : '0')};
  & + & {
    margin-left: -8px;
  }
  font-weight: 600;
  color: var(--ink);
`;

/** How a bound of what is tried is typed: as its control shows it. */
function shownOf({ min, max, unit }: NumberField) {
  return { min, max, ...units[unit], centred: min < 0 && max > 0, width: 50 };
}

/** A sheet has at most so many columns. */
const MOST_COLUMNS = 8;

/** How many strips there may be. */
const COUNTS = { ...units.whole, min: 2, max: 9, centred: false, width: 34 };

/** What is tried, between what, in how many strips. */
export function StripLabel({
  strip,
  onPaper,
}: {
  strip: TestStrip;
  /** Makes a sheet of it. */
  onPaper: (settings: SheetSettings) => Promise<SentFile>;
}) {
  const [isPaper, setPaper] = useState(false);
  return (
    <Label role="group" aria-label="Test strip">
      <b>{strip.axes.length > 1 ? 'Grid' : 'Test strip'}</b>
      {strip.axes.map((axis, i) => (
        <span key={axis.setting.name}>
          {i ? <span>by</span> : null}
          <span className="name" title={axis.setting.name}>
            {axis.setting.name}
          </span>
          {axis.setting.type === 'number' ? (
            <>
              {strip.axes.length > 1 ? null : 'from'}
              <TypedNumber
                {...shownOf(axis.setting.field)}
                name={`${axis.setting.name} from`}
                value={axis.from}
                onTyped={from => strip.change(i, { from })}
              />
              to
              <TypedNumber
                {...shownOf(axis.setting.field)}
                name={`${axis.setting.name} to`}
                value={axis.to}
                onTyped={to => strip.change(i, { to })}
              />
              in
              <TypedNumber
                {...COUNTS}
                name={`How many of ${axis.setting.name}`}
                value={axis.count}
                onTyped={count => strip.change(i, { count })}
              />
            </>
          ) : (
            <span>in {numberInWords(axis.values.length)} strips</span>
          )}
        </span>
      ))}
      <Act onPress={() => setPaper(true)}>On paper</Act>
      <Act $last onPress={strip.putAway}>
        Put away
      </Act>
      {isPaper ? (
        <SheetDialog
          kind="strip"
          columns={Math.min(MOST_COLUMNS, strip.columns)}
          make={onPaper}
          onClose={() => setPaper(false)}
        >
          {countOf(strip.cells.length, 'picture')} with what each was set to.
        </SheetDialog>
      ) : null}
    </Label>
  );
}
