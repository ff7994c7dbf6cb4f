import { Ellipsis, Link2 } from 'lucide-react';
import styled from 'styled-components';
import type { Step } from '../../core/treatment/treatment';
import { IconButton, LinkButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import { changedInWords } from './held-words';
import type { Sharing } from './useSharing';

const Lines = styled.div`
  display: grid;
  grid-template-columns: 20px minmax(0, 1fr) auto;
  align-items: center;
  margin-top: 2px;
  font-size: var(--t-small);
  color: var(--ink-2);
  line-height: 18px;
  > svg {
    width: 14px;
    height: 14px;
  }
  > span {
    overflow-wrap: anywhere;
  }
  b {
    font-weight: 600;
    color: var(--ink);
  }
  > button {
    justify-self: end;
  }
  .here {
    grid-column: 2;
  }
`;

/** Says of a step which shared look holds it, and what was changed here; gives and takes between the two. */
export function HeldBy({ step, sharing }: { step: Step; sharing: Sharing }) {
  const look = sharing.lookOf(step);
  if (!look || !step.look) return null;
  const { changed, revision } = step.look;
  const isBehind = revision < look.revision;
  const underway = sharing.underway?.lookId === look.id ? sharing.underway : null;
  const says = underway
    ? `${underway.done} of ${underway.of} have followed …`
    : isBehind
      ? 'As it was before it was changed.'
      : changed.length
        ? `Changed here: ${changedInWords(changed)}.`
        : 'What you change here stays here.';
  return (
    // Always of one height: nothing moves under the hand when something is changed.
    <Lines role="note" aria-label={`Held by ${look.name}`}>
      <Link2 aria-hidden="true" />
      <span>
        Held by <b>{look.name}</b>
      </span>
      <Menu
        label={`More for ${look.name}`}
        trigger={
          <IconButton aria-label={`More for ${look.name}`}>
            <Ellipsis aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'shared', text: 'As it is shared', disabled: changed.length === 0 },
              { id: 'go', text: `Let go of ${look.name} here` },
            ],
          },
        ]}
        onAction={what => (what === 'go' ? sharing.letGo(look) : sharing.takeAsShared(step.id))}
      />
      <span className="here" title={says}>
        {says}
      </span>
      {underway ? null : isBehind ? (
        <LinkButton onPress={() => sharing.follow(look)}>Follow it</LinkButton>
      ) : changed.length ? (
        <LinkButton onPress={() => sharing.changeForAll(step.id)}>Change it for all</LinkButton>
      ) : null}
    </Lines>
  );
}
