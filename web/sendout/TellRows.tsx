import { useState } from 'react';
import { Input } from 'react-aria-components';
import type { Credits, SendOutSettings } from '../../contract/send-outs';
import { useCredits, useSetCredits } from '../app/queries';
import { Picker } from '../ui/overlays';
import { Row, Small, Words } from '../ui/rows';

type What = SendOutSettings['metadata'];

const WAYS: { value: What; text: string }[] = [
  { value: 'all', text: 'All that the original tells' },
  { value: 'rights', text: 'Author and rights only' },
  { value: 'none', text: 'Nothing' },
];

/** What a file will tell, in words. */
const told: Record<What, string> = {
  all: 'Camera, date and, where it has one, the place; author, rights and the take’s name.',
  rights: 'Author, rights and the take’s name; no camera, no date, no place.',
  none: 'Nothing but its pixels, colour profile and resolution.',
};

/** One of the two, written where it stands and kept when it is left. */
function Said({ name, value, onKeep }: { name: string; value: string; onKeep: (value: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const keep = () => {
    if (text !== null && text.trim() !== value) onKeep(text.trim());
    setText(null);
  };
  return (
    <Row>
      <span>{name}</span>
      <Words
        aria-label={name}
        value={text ?? value}
        maxLength={name === 'Author' ? 200 : 500}
        onChange={setText}
        onBlur={keep}
      >
        <Input onKeyDown={event => event.key === 'Enter' && keep()} />
      </Words>
    </Row>
  );
}

/** What files tell beside their pixels, and whose they are: set once, for all. */
export function TellRows({ what, onChange }: { what: What; onChange: (what: What) => void }) {
  const credits = useCredits();
  const set = useSetCredits();
  const { author, rights }: Credits = set.isPending
    ? set.variables
    : (credits.data ?? { author: '', rights: '' });
  return (
    <>
      <Row>
        <span>Metadata</span>
        <Picker label="What files tell" value={what} options={WAYS} onChange={onChange} />
      </Row>
      {what === 'none' ? null : (
        <>
          <Said name="Author" value={author} onKeep={value => set.mutate({ author: value, rights })} />
          <Said name="Rights" value={rights} onKeep={value => set.mutate({ author, rights: value })} />
        </>
      )}
      <Small>{told[what]}</Small>
    </>
  );
}
