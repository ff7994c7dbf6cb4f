import { useQuery } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import styled from 'styled-components';
import type { Photograph } from '../../contract/photographs';
import { getTake } from '../../contract/takes';
import { layTreatment, type Laying } from '../../core/treatment/laying';
import type { Treatment } from '../../core/treatment/treatment';
import { call, currentTake } from '../app/api';
import { madeOf, SHARED, stepsOf, type ListedLook } from '../laying/look-groups';
import type { useLookList } from '../laying/useLookList';
import { CardGrid } from '../print/CardGrid';
import { PictureCard } from '../print/PictureCard';
import { Find } from '../ui/find';

const Room = styled.div`
  display: grid;
  gap: 9px;
  > div {
    max-height: min(380px, 46vh);
    margin: 0 -16px;
    padding-bottom: 4px;
  }
`;

/** The looks as small pictures of one of the photographs that they would go to; one is chosen. */
export function ChooseLook({
  list: { groups },
  wanted,
  onWanted,
  on,
  inSeries,
  laying,
  chosen,
  onChoose,
}: {
  list: ReturnType<typeof useLookList>;
  wanted: string;
  onWanted: (wanted: string) => void;
  /** The photograph that they are shown on. */
  on: Photograph;
  inSeries: number;
  laying: Laying;
  chosen: string | undefined;
  onChoose: (key: string) => void;
}) {
  const take = currentTake(on);
  const { data } = useQuery({
    queryKey: ['take', take.id, take.revision],
    queryFn: () => call(getTake, { params: { id: take.id } }),
  });
  const [at, setAt] = useState<string | null>(null);
  const { id, width, height, grey, damage } = on;
  const picture = useMemo(() => ({ id, width, height, grey, damage }), [id, width, height, grey, damage]);
  const small = useMemo(
    () =>
      data
        ? madeOf(groups, look => layTreatment(data.treatment, look.treatment, laying).treatment)
        : new Map<string, Treatment>(),
    [groups, data, laying],
  );
  const card = (look: ListedLook) => (
    <PictureCard
      key={look.key}
      name={look.name}
      says={stepsOf(look)}
      picture={picture}
      treatment={small.get(look.key)}
      isTried={look.key === chosen || look.key === at}
      isChosen={look.key === chosen}
      onTry={isOn => setAt(now => (isOn ? look.key : now === look.key ? null : now))}
      onTake={() => onChoose(look.key)}
    />
  );
  return (
    <Room>
      <Find label="Find a look" value={wanted} onChange={onWanted} />
      <CardGrid
        groups={groups}
        columns={4}
        notes={{ [SHARED]: `of ${inSeries} photographs` }}
        card={card}
        none="No look is called that. Fewer letters find more."
      />
    </Room>
  );
}
