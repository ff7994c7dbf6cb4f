import type { Laying } from '../../core/treatment/laying';
import { Segments } from '../ui/buttons';

/** Whether what is laid on goes to the end of each stage, or in the place of what is there. */
export function HowLaid({ how, onChange }: { how: Laying['how']; onChange: (how: Laying['how']) => void }) {
  return (
    <Segments
      label="Where the steps go"
      value={how}
      options={[
        { value: 'added', text: 'Added in each stage' },
        { value: 'instead', text: 'In their place' },
      ]}
      onChange={onChange}
    />
  );
}
