import { Button as AriaButton } from 'react-aria-components';
import styled from 'styled-components';
import type { Way } from './compared';

const Row = styled.div`
  display: flex;
  align-items: center;
  gap: 9px;
  flex: none;
  color: var(--ink-2);
  > div {
    display: flex;
    border: 1px solid #a8a8a8;
    border-radius: var(--r-field);
    background: var(--paper-high);
  }
  @media (max-width: 1400px) {
    > span {
      display: none;
    }
  }
`;

const Choice = styled(AriaButton)`
  height: 28px;
  padding: 0 10px;
  font-weight: 550;
  color: var(--ink);
  white-space: nowrap;
  & + & {
    box-shadow: -1px 0 0 #a8a8a8;
  }
  &[data-hovered] {
    background: #fff;
  }
  &[aria-pressed='true'] {
    background: var(--ink);
    color: #fff;
  }
  &[data-focus-visible] {
    outline: 2px solid var(--lamp-deep);
    outline-offset: 2px;
  }
`;

const ways: readonly { way: Way; text: string }[] = [
  { way: 'bare', text: 'Bare' },
  { way: 'half', text: 'Half and half' },
  { way: 'side', text: 'Side by side' },
];

/** The ways to compare: each shown while its button is held, or from one click to the next. */
export function CompareButtons({
  shown,
  onPress,
  onRelease,
}: {
  shown: Way | null;
  onPress: (way: Way) => void;
  onRelease: () => void;
}) {
  return (
    <Row role="group" aria-label="Compare">
      <span aria-hidden="true">Compare</span>
      <div>
        {ways.map(({ way, text }) => (
          <Choice
            key={way}
            data-tour={way}
            aria-pressed={shown === way}
            onPressStart={() => onPress(way)}
            onPressEnd={onRelease}
          >
            {text}
          </Choice>
        ))}
      </div>
    </Row>
  );
}
