import { useNavigate, useParams } from 'react-router';
import type { Photograph } from '../../contract/photographs';
import type { Series } from '../../contract/series';
import { messageOf } from '../app/api';
import { useChangePhotograph, usePhotograph, useSeries } from '../app/queries';
import { useKeys } from '../app/useKeys';
import { SeriesContext } from '../controls/tools';
import { useShownTake } from '../takes/useShownTake';
import { Bar, Crumbs } from '../ui/bar';
import { Wait } from '../ui/wait';
import { AtWork } from './AtWork';
import { Frame } from './frame';
import { Opening } from './Opening';
import { Strip } from './Strip';
import { useBeside } from './useBeside';
import { useSession } from './useSession';

/** The Bench: one photograph being treated. */
export function Bench() {
  const { photographId = '' } = useParams();
  const photograph = usePhotograph(photographId);
  if (photograph.isError) return <Wait problem={messageOf(photograph.error)} />;
  if (!photograph.data) return <Wait />;
  return <BenchOf key={photographId} photograph={photograph.data} isAsked={photograph.isFetching} />;
}

/** The keys to the photographs before and after, also while one is still being opened. */
function useNeighbourKeys(photographId: string, series: Series | undefined): void {
  const navigate = useNavigate();
  const goBy = (by: -1 | 1) => {
    const all = series?.photographs ?? [];
    const next = all[all.findIndex(p => p.id === photographId) + by];
    if (!next) return false;
    void navigate(`/photographs/${next.id}`);
  };
  useKeys({ earlierPhotograph: () => goBy(-1), laterPhotograph: () => goBy(1) });
}

function BenchOf({ photograph, isAsked }: { photograph: Photograph; isAsked: boolean }) {
  const series = useSeries(photograph.seriesId);
  useNeighbourKeys(photograph.id, series.data);
  const change = useChangePhotograph();
  const { current, chosenHere, open } = useShownTake(photograph, isAsked);
  const { session, problem } = useSession(current);
  const beside = useBeside(photograph.id, series.data);
  const openTake = (id: string) => {
    open(id);
    // What is known here of where the photograph stands may be long past.
    if (id !== current) change.mutate({ id: photograph.id, currentTakeId: id });
  };
  if (problem) return <Wait problem={problem} />;
  if (!session) {
    return (
      <Frame>
        <Bar>
          <Crumbs
            screen="Bench"
            above={series.data ? [{ to: `/series/${series.data.id}`, text: series.data.title }] : []}
            here={photograph.title}
          />
        </Bar>
        <Strip series={series.data} current={photograph} />
        <Opening photograph={photograph} />
      </Frame>
    );
  }
  return (
    <SeriesContext value={photograph.seriesId}>
      <AtWork
        key={current}
        photograph={photograph}
        series={series.data}
        beside={beside}
        session={session}
        chosenHere={chosenHere}
        onOpenTake={openTake}
      />
    </SeriesContext>
  );
}
