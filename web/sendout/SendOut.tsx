import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import styled from 'styled-components';
import { fileNameOf } from '../../contract/file-name';
import type { Photograph } from '../../contract/photographs';
import type { FormatView, SendOutSettings } from '../../contract/send-outs';
import type { Series } from '../../contract/series';
import type { TakeSummary } from '../../contract/takes';
import { messageOf } from '../app/api';
import { useSend, useFormats, useSendOuts, useSeries } from '../app/queries';
import { characterInWords } from '../../words/character';
import { countOf } from '../../words/words';
import { useTour } from '../app/tour';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { KeysHelp } from '../ui/keys-help';
import { Button } from '../ui/buttons';
import { PrintLabel } from '../ui/print-label';
import { Wait } from '../ui/wait';
import { FileDrop } from '../import/FileDrop';
import { bringIn } from '../import/imports';
import { useLaidDown } from '../import/useLaidDown';
import { Queue } from './Queue';
import { AlsoFrom } from './AlsoFrom';
import { ChooseTakes } from './ChooseTakes';
import { KeptAs } from './KeptAs';
import { lastSettings, rememberSettings } from './kept';
import { SettingsCard } from './SettingsCard';
import { TakePicture } from '../ui/TakePicture';

const Frame = styled.div`
  height: 100vh;
  display: grid;
  grid-template: var(--bar) minmax(0, 1fr) auto / minmax(0, 1fr) clamp(280px, 30.6vw, 392px);
  > header {
    grid-column: 1 / -1;
  }
  > aside {
    grid-column: 2;
    grid-row: 2 / 4;
  }
  /* Large type or a small window: one below the other, and all of it scrolls. */
  @media (max-width: 940px), (max-height: 480px) {
    display: block;
    overflow: hidden auto;
    scroll-padding: 60px 0 80px;
    > header {
      position: sticky;
      top: 0;
    }
  }
`;

const Desk = styled.main`
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  display: grid;
  grid-template-columns: minmax(0, 1fr) 384px;
  column-gap: 28px;
  padding: 26px 30px 26px 26px;
  overflow: hidden auto;
  align-content: start;
  @media (max-width: 860px) {
    grid-template-columns: minmax(0, 1fr);
    row-gap: 24px;
  }
`;

const Head = styled.div`
  display: flex;
  align-items: flex-start;
  justify-content: space-between;
  height: 34px;
  h2 {
    color: var(--wall-ink);
    font-size: 15px;
    font-weight: 650;
  }
`;

const Thumbs = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(120px, 1fr));
  gap: 21px 15px;
  .frame {
    aspect-ratio: 3 / 2;
    display: flex;
    align-items: flex-end;
  }
  img {
    max-width: 100%;
    max-height: 100%;
    box-shadow: 0 1px 3px rgb(0 0 0 / 0.3);
  }
`;

interface Going {
  photograph: Photograph;
  take: TakeSummary;
  number: number;
}

/** The takes named in the address that the series has, in the order of the series. */
function goingOut(series: Series, ids: readonly string[]): Going[] {
  return series.photographs.flatMap((photograph, i) =>
    photograph.takes.filter(t => ids.includes(t.id)).map(take => ({ photograph, take, number: i + 1 })),
  );
}

/** Send out: takes become files. */
export function SendOut() {
  const { seriesId = '' } = useParams();
  const series = useSeries(seriesId);
  const formats = useFormats();
  const error = series.error ?? formats.error;
  if (error) return <Wait problem={messageOf(error)} />;
  if (!series.data || !formats.data) return <Wait />;
  return <SendOutOf series={series.data} formats={formats.data} />;
}

function SendOutOf({ series, formats }: { series: Series; formats: readonly FormatView[] }) {
  const [search, setSearch] = useSearchParams();
  const [choosing, setChoosing] = useState(false);
  const navigate = useNavigate();
  const named = search.get('takes');
  const ids = named?.split(',').filter(Boolean) ?? series.photographs.map(p => p.currentTakeId);
  const going = goingOut(series, ids);
  const sendOuts = useSendOuts(series.id);
  const send = useSend();
  const client = useQueryClient();
  const laidDown = useLaidDown({
    onPictures: useCallback((files: File[]) => bringIn(files, series.id, client), [series.id, client]),
  });
  const [settings, setSettings] = useState<SendOutSettings>(lastSettings);
  const take = (next: SendOutSettings) => {
    rememberSettings(next);
    setSettings(next);
  };
  const format = formats.find(f => f.name === settings.format) ?? formats[0];
  const [first] = going as (Going | undefined)[];
  const example = first
    ? fileNameOf(
        {
          series: series.title,
          number: first.number,
          title: first.photograph.title,
          letter: first.take.letter,
          original: first.photograph.fileName,
          date: new Date(),
        },
        settings.names,
        format.ending,
      )
    : '';

  return (
    <Frame>
      <Bar>
        <Crumbs
          screen={series.title}
          above={[{ to: `/series/${series.id}`, text: series.title }]}
          here="Send out"
        />
        <Push />
        <KeptAs settings={settings} onTake={take} />
        <KeysHelp />
        <WallTones />
        <Button onPress={() => void navigate(`/series/${series.id}`)}>Back to the sheet</Button>
      </Bar>
      <Desk>
        <section aria-label="What goes out">
          <Head>
            <h2>{countOf(going.length, 'photograph')}</h2>
            <Button $small onPress={() => setChoosing(true)}>
              Change
            </Button>
          </Head>
          <Thumbs>
            {going.map(({ photograph, take }) => (
              <figure key={take.id}>
                <div className="frame">
                  <TakePicture take={take} edge={480} />
                </div>
                <PrintLabel as="figcaption">
                  <b title={photograph.title}>{photograph.title}</b>
                  <span>
                    <u>{characterInWords(take.steps)}</u>
                    <span>Take {take.letter}</span>
                  </span>
                </PrintLabel>
              </figure>
            ))}
          </Thumbs>
        </section>
        <SettingsCard
          formats={formats}
          settings={settings}
          onChange={take}
          example={example}
          going={going}
          busy={send.isPending}
          onSend={() =>
            send.mutate(
              { series: series.id, takes: going.map(g => g.take.id), settings },
              { onSuccess: () => useTour.getState().tell({ sent: true }) },
            )
          }
        />
      </Desk>
      <AlsoFrom
        seriesId={series.id}
        settings={settings}
        going={going.map(({ photograph, take: { id, letter } }) => ({
          id,
          text: `${photograph.title}, take ${letter}`,
        }))}
      />
      {choosing ? (
        <ChooseTakes
          photographs={series.photographs}
          going={going.map(g => g.take.id)}
          onChoose={takes => {
            setChoosing(false);
            setSearch({ takes: takes.join(',') }, { replace: true });
          }}
          onClose={() => setChoosing(false)}
        />
      ) : null}
      <Queue seriesId={series.id} list={sendOuts.data ?? []} />
      <FileDrop text={`Lay them down in ${series.title}`} onFiles={laidDown} />
    </Frame>
  );
}
