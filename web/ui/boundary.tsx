import { Component, type ErrorInfo, type ReactNode } from 'react';
import styled from 'styled-components';
import { Button } from './buttons';

const Said = styled.div`
  display: grid;
  align-content: center;
  justify-items: start;
  gap: 10px;
  min-height: 0;
  height: 100%;
  padding: 20px 16px;
  background: var(--paper);
  color: var(--ink);
  line-height: 1.45;
  overflow: auto;
  h2 {
    font-size: 15px;
    font-weight: 650;
  }
  p {
    color: var(--ink-2);
    max-width: 46ch;
  }
  div {
    display: flex;
    gap: 8px;
  }
`;

/** A part of a program that could not be loaded: most often since the server has another build by now. */
const isNotLoaded = (error: Error) =>
  /dynamically imported module|module script|preload/i.test(error.message);

/** What is said in the place of a part that failed, with the ways on. */
export function Failed({ what, error, again }: { what: string; error: Error; again: () => void }) {
  const notLoaded = isNotLoaded(error);
  return (
    <Said role="alert">
      <h2>{notLoaded ? `${what} could not be loaded.` : `${what} stopped working.`}</h2>
      <p>
        Nothing is lost: changes are saved, or kept in this browser until they are.{' '}
        {notLoaded ? 'The server may be away, or have a newer version.' : `The reason: ${error.message}`}
      </p>
      <div>
        <Button $small onPress={again}>
          Try again
        </Button>
        <Button $small onPress={() => location.reload()}>
          Reload the page
        </Button>
      </div>
    </Said>
  );
}

interface Props {
  /** What it holds, as a sentence begins with it: `The panel`. */
  what: string;
  /** Where this is another, what failed before is tried anew. */
  resetBy?: unknown;
  children: ReactNode;
}

/** Holds a part of the screen: where it fails, it says so in its place, and all else goes on. */
export class Boundary extends Component<Props, { error: Error | null }> {
  override state = { error: null as Error | null };

  static getDerivedStateFromError(thrown: unknown) {
    return { error: thrown instanceof Error ? thrown : new Error(String(thrown)) };
  }

  override componentDidUpdate(before: Props) {
    if (this.state.error && before.resetBy !== this.props.resetBy) this.setState({ error: null });
  }

  override componentDidCatch(error: Error, { componentStack }: ErrorInfo) {
    console.error(`${this.props.what} failed.`, error, componentStack);
  }

  override render() {
    const { error } = this.state;
    if (!error) return this.props.children;
    return <Failed what={this.props.what} error={error} again={() => this.setState({ error: null })} />;
  }
}
