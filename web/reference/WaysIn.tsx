import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Input, Label, TextField } from 'react-aria-components';
import styled from 'styled-components';
import { endSignIn, endToken, giveToken, listSignIns, listTokens } from '../../contract/tokens';
import { whenInWords } from '../../words/words';
import { call, messageOf } from '../app/api';
import { tell } from '../app/notices';
import { Button, LinkButton } from '../ui/buttons';

const Section = styled.section`
  ul {
    margin-top: 8px;
  }
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

/** Browsers that are signed in, each with its last use; any can be signed out. */
function SignIns() {
  const client = useQueryClient();
  const signIns = useQuery({ queryKey: ['sign-ins'], queryFn: () => call(listSignIns, {}) });
  const end = useMutation({
    mutationFn: (id: string) => call(endSignIn, { params: { id } }),
    onSettled: () => client.invalidateQueries({ queryKey: ['sign-ins'] }),
    onError: error => tell({ text: messageOf(error), tone: 'problem' }),
  });
  return (
    <Section aria-label="Signed in">
      <h3>Signed in</h3>
      <p>Browsers signed in with the passphrase. A browser is signed out after two weeks without use.</p>
      <ul aria-label="Browsers signed in">
        {(signIns.data ?? []).map(s => (
          <li key={s.id}>
            <b>{s.own ? 'This browser' : s.browser || 'A browser'}</b>
            <span>
              signed in {whenInWords(s.createdAt)}, used {whenInWords(s.usedAt)}
            </span>
            {s.own ? <span /> : <LinkButton onPress={() => end.mutate(s.id)}>Sign it out</LinkButton>}
          </li>
        ))}
      </ul>
      {signIns.isError ? <p role="alert">{messageOf(signIns.error)}</p> : null}
    </Section>
  );
}

/** Who may come in where a passphrase is set. */
export function WaysIn() {
  return (
    <>
      <SignIns />
      <Tokens />
    </>
  );
}

/** The tokens of programs: given out, told once, and ended. */
function Tokens() {
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
        A token ends when you end it, after six months without use, or when the passphrase changes.
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
