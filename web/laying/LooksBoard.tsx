import { Ellipsis } from 'lucide-react';
import { useCallback, useMemo, useRef, useState } from 'react';
import styled from 'styled-components';
import type { Treatment } from '../../core/treatment/treatment';
import { layTreatment, type Laid, type Laying } from '../../core/treatment/laying';
import type { Look } from '../../core/treatment/looks';
import { tell } from '../app/notices';
import { useRemoveLook } from '../app/queries';
import { useKeys } from '../app/useKeys';
import type { PictureInfo } from '../engine/tiles';
import { BoardHead } from '../ui/board-head';
import { IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import { Find } from '../ui/find';
import { SHARE_OF_ALL, Slider } from '../ui/slider';
import { madeOf, SHARED, stepsOf, type ListedLook } from './look-groups';
import { useLookList } from './useLookList';
import { HowLaid } from './HowLaid';
import { LookAsked, type Keeping } from './LookAsked';
import { CardGrid } from '../print/CardGrid';
import { PictureCard } from '../print/PictureCard';
import type { Tried } from '../takes/tried';
import { useTrying } from '../print/useTrying';
import { useLookFiles } from './useLookFiles';
import type { Sharing } from './useSharing';

const Foot = styled.div`
  flex: none;
  border-top: 1px solid #cfcfcf;
  background: var(--paper-high);
  padding: 8px 16px 13px;
  display: grid;
  gap: 8px;
`;

/** What can be done with a look, by the names of its menu. */
type LookAction = 'name' | 'remake' | 'share' | 'write' | 'remove';

function actionsOf({ shared, isKept }: ListedLook): { id: LookAction; text: string }[] {
  return [
    ...(shared || isKept ? [{ id: 'name', text: shared ? 'Name' : 'Name and group' } as const] : []),
    ...(shared
      ? [{ id: 'remake', text: 'Make it as this photograph is' } as const]
      : [{ id: 'share', text: 'Share it in this series' } as const]),
    { id: 'write', text: 'Save as a file' },
    ...(shared || isKept ? [{ id: 'remove', text: shared ? 'Share it no more' : 'Put aside' } as const] : []),
  ];
}

/** Looks as small pictures of this photograph: what is pointed at shows in the print, a press lays it on. */
export function LooksBoard({
  picture,
  treatment,
  sharing,
  inSeries,
  onTry,
  onLay,
  onClose,
}: {
  picture: PictureInfo;
  treatment: Treatment;
  sharing: Sharing;
  /** How many photographs the series has. */
  inSeries: number;
  /** Must stay the same function. */
  onTry: (tried: Tried | null) => void;
  onLay: (laid: Laid, name: string) => void;
  onClose: () => void;
}) {
  const remove = useRemoveLook();
  const [wanted, setWanted] = useState('');
  const [strength, setStrength] = useState(1);
  const [how, setHow] = useState<Laying['how']>('instead');
  const [keeping, setKeeping] = useState<Keeping | null>(null);
  const { bringIn, write } = useLookFiles();
  const input = useRef<HTMLInputElement>(null);
  useKeys({ giveUp: onClose });

  const { groups, own } = useLookList(sharing.looks, wanted);
  const laid = useCallback(
    (look: Look, of: number): Laid =>
      layTreatment(treatment, look.treatment, {
        how,
        frame: false,
        painted: true,
        as: { name: look.name, strength: of },
      }),
    [treatment, how],
  );
  const small = useMemo(() => madeOf(groups, look => laid(look, 1).treatment), [groups, laid]);

  const triedOf = useCallback(
    (key: string): Tried | null => {
      const look = [...groups.values()].flat().find(l => l.key === key);
      if (!look) return null;
      try {
        const how = strength < 1 ? `at ${Math.round(strength * 100)}` : undefined;
        return { name: look.name, how, treatment: laid(look, strength).treatment, then: 'lays it on' };
      } catch {
        return null;
      }
    },
    [groups, laid, strength],
  );
  const { at, point } = useTrying(triedOf, onTry);

  const take = (look: Look) => {
    try {
      onLay(laid(look, strength), look.name);
    } catch (error) {
      tell({ text: `${look.name} cannot be laid on: ${(error as Error).message}.`, tone: 'problem' });
    }
  };
  const act = (look: ListedLook, action: LookAction) => {
    if (action === 'name') setKeeping({ do: 'name', look });
    else if (action === 'remake') setKeeping({ do: 'remake', look: look.shared! });
    else if (action === 'share') sharing.bring(look);
    else if (action === 'write') void write([look], look.name);
    else remove.mutate({ id: look.key, name: look.name });
  };
  const card = (look: ListedLook) => (
    <PictureCard
      key={look.key}
      name={look.name}
      says={stepsOf(look)}
      picture={picture}
      treatment={small.get(look.key)}
      isTried={look.key === at}
      actions={actionsOf(look)}
      onTry={on => point(look.key, on)}
      onTake={() => take(look)}
      onAction={action => act(look, action)}
    />
  );
  return (
    <>
      <BoardHead
        title="Looks"
        says="laid on as open steps"
        close="Close the looks"
        onClose={onClose}
        more={
          <Menu
            label="More for looks"
            trigger={
              <IconButton aria-label="More for looks">
                <Ellipsis aria-hidden="true" />
              </IconButton>
            }
            sections={[
              {
                entries: [
                  {
                    id: 'keep',
                    text: 'Keep this treatment as a look',
                    disabled: treatment.steps.length === 0,
                  },
                  {
                    id: 'share',
                    text: 'Share this treatment in the series',
                    disabled: treatment.steps.length === 0,
                  },
                  { id: 'in', text: 'Bring in a file of looks' },
                  { id: 'out', text: 'Save my looks as a file', disabled: own.length === 0 },
                ],
              },
            ]}
            onAction={what => {
              if (what === 'keep' || what === 'share') setKeeping({ do: what });
              else if (what === 'in') input.current?.click();
              else void write(own, 'looks');
            }}
          />
        }
      >
        <Find label="Find a look" value={wanted} onChange={setWanted} />
      </BoardHead>
      <CardGrid
        groups={groups}
        columns={2}
        notes={{ [SHARED]: `of ${inSeries} photographs` }}
        card={card}
        none="No look is called that. Fewer letters find more."
      />
      <Foot>
        <Slider
          label="Strength"
          name="Strength of the look"
          value={strength}
          {...SHARE_OF_ALL}
          onChange={setStrength}
          onChangeEnd={setStrength}
        />
        <HowLaid how={how} onChange={setHow} />
      </Foot>
      <input
        ref={input}
        type="file"
        accept=".json"
        hidden
        aria-label="File of looks"
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bringIn(file);
        }}
      />
      {keeping ? (
        <LookAsked
          keeping={keeping}
          treatment={treatment}
          groups={[...new Set(own.map(l => l.group))]}
          sharing={sharing}
          onClose={() => setKeeping(null)}
        />
      ) : null}
    </>
  );
}
