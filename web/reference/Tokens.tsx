import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { endToken, giveToken, listTokens } from '../../contract/tokens';
import { whenInWords } from '../../words/words';
import { call, messageOf } from '../app/api';
import { tell } from '../app/notices';
import { Button, LinkButton } from '../ui/buttons';

const Section = styled.section`
  li {
    display: grid;
    grid-template-columns: minmax(0, 1fr) auto auto;
    gap: 18px;
    border-top: 1px solid var(--rule);
    padding: 7px 4px;
    align-items: center;
  }
  li span {
    color: var(--ink-2);
    font-size: var(--t-small);
  }
  form {
    display: flex;
    gap: 12px;
    align-items: end;
    margin: 10px 0;
  }
  label {
    color: var(--ink-2);
    display: block;
    margin-bottom: 7px;
  }
  input {
    height: 32px;
    padding: 0 8px;
    border: 0;
    border-bottom: 1px solid var(--edge);
    background: #fff;
    min-width: 260px;
  }
`;

/** The tokens of programs: given out, told once, and ended. */
export function Tokens() {
  const client = useQueryClient();
  const tokens = useQuery({ queryKey: ['tokens'], queryFn: () => call(listTokens, {}) });
  const [name, setName] = useState('');
  const again = () => client.invalidateQueries({ queryKey: ['tokens'] });
  const give = useMutation({
    mutationFn: (of: string) => call(giveToken, { body: { name: of } }),
    onSuccess: () => {
      setName('');
      void again();
    },
    onError: error => tell({ text: messageOf(error), tone: 'problem' }),
  });
  const end = useMutation({
    mutationFn: (id: string) => call(endToken, { params: { id } }),
    onSettled: again,
    onError: error => tell({ text: messageOf(error), tone: 'problem' }),
  });
  return (
    <Section aria-label="Tokens">
      <h3>Tokens</h3>
      <p>
        A passphrase is set, so a program gives a token: <code>-H &apos;Authorization: Bearer …&apos;</code>.
        One that is ended lets nobody in; another passphrase ends them all.
      </p>
      <form
        onSubmit={event => {
          event.preventDefault();
          if (name.trim()) give.mutate(name.trim());
        }}
      >
        <TextField value={name} onChange={setName} maxLength={60}>
          <Label>What it is for</Label>
          <Input />
        </TextField>
        <Button $ink type="submit" isDisabled={!name.trim() || give.isPending}>
          Give out a token
        </Button>
      </form>
      {give.data ? (
        <div role="status">
          The token of “{give.data.name}”, told this once:
          <pre>{give.data.token}</pre>
        </div>
      ) : null}
      <ul aria-label="Tokens given out">
        {(tokens.data ?? []).map(t => (
          <li key={t.id}>
            <b>{t.name}</b>
            <span>
              given {whenInWords(t.createdAt)}, {t.usedAt ? `used ${whenInWords(t.usedAt)}` : 'never used'}
            </span>
            <LinkButton onPress={() => end.mutate(t.id)}>End it</LinkButton>
          </li>
        ))}
      </ul>
      {tokens.isError ? <p role="alert">{messageOf(tokens.error)}</p> : null}
    </Section>
  );
}
