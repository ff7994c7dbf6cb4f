import type { SeriesLook } from '../../contract/shared-looks';
import type { Treatment } from '../../core/treatment/treatment';
import { tell } from '../app/notices';
import { useChangeLook, useKeepLooks } from '../app/queries';
import { KeepLook, MY_LOOKS, type Kept } from './KeepLook';
import type { Sharing } from './useSharing';

/** A look that is there. */
interface Named {
  key: string;
  name: string;
  group: string;
  shared?: SeriesLook;
}

/** What is asked for about a look. */
export type Keeping =
  { do: 'keep' | 'share' } | { do: 'name'; look: Named } | { do: 'remake'; look: SeriesLook };

function titleOf(keeping: Keeping): string {
  switch (keeping.do) {
    case 'keep':
      return 'Keep as a look';
    case 'share':
      return 'Share in this series';
    case 'name':
      return keeping.look.shared ? 'Name' : 'Name and group';
    case 'remake':
      return `Make ${keeping.look.name} of these steps`;
  }
}

/** Asks for what is wanted of a look, and does it. */
export function LookAsked({
  keeping,
  treatment,
  groups,
  sharing,
  onClose,
}: {
  keeping: Keeping;
  treatment: Treatment;
  groups: readonly string[];
  sharing: Sharing;
  onClose: () => void;
}) {
  const keep = useKeepLooks();
  const change = useChangeLook();
  const finish = ({ name, group, ids, treatment: of }: Kept) => {
    onClose();
    switch (keeping.do) {
      case 'name':
        change.mutate({ id: keeping.look.key, name, ...(!keeping.look.shared && { group }) });
        break;
      case 'remake':
        sharing.remake(keeping.look, ids);
        break;
      case 'share':
        sharing.share(name, ids);
        break;
      case 'keep':
        keep.mutate([{ name, group, treatment: of }], {
          onSuccess: () => tell({ text: `${name} is kept among your looks.` }),
        });
    }
  };
  const { do: what } = keeping;
  const asksGroup = what === 'keep' || (what === 'name' && !keeping.look.shared);
  return (
    <KeepLook
      title={titleOf(keeping)}
      of={what === 'name' ? null : treatment}
      name={what === 'remake' ? null : 'look' in keeping ? keeping.look.name : ''}
      group={!asksGroup ? null : what === 'name' ? keeping.look.group : MY_LOOKS}
      groups={groups}
      lookId={what === 'remake' ? keeping.look.id : undefined}
      onClose={onClose}
      onKeep={finish}
    />
  );
}
