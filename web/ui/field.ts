import { TextField } from 'react-aria-components';
import styled from 'styled-components';

/** A line of text with its name above, in a dialog. */
export const Field = styled(TextField)`
  display: grid;
  gap: 5px;
  margin-top: 12px;
  label {
    color: var(--ink-2);
  }
  input {
    height: 30px;
    padding: 0 8px;
    border: 0;
    border-bottom: 1px solid var(--edge);
    background: #fff;
  }
`;
