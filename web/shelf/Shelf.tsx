import { getBackup, getBackups, getPackage } from '../../contract/archives';
import { addressOf, type Read } from '../../contract/route';
import { PICTURE_KINDS } from '../../contract/picture-files';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { ChevronRight, Ellipsis } from 'lucide-react';
import { useCallback, useState } from 'react';
import { KeysHelp } from '../ui/keys-help';
import { Input, Label, TextField } from 'react-aria-components';
import { Link, useNavigate } from 'react-router';
import styled from 'styled-components';
import { removeSeries, restoreSeries, type SeriesSummary } from '../../contract/series';
import { call, messageOf } from '../app/api';
import { useTour } from '../app/tour';
import { useKeys } from '../app/useKeys';
import { toldOf, useDeeds, useLine } from '../app/deeds';
import { tell } from '../app/notices';
import { healthQuery, useCreateSeries, useShelf } from '../app/queries';
import { countOf, whenInWords } from '../../words/words';
import { bringIn, refuse } from '../import/imports';
import { chooseFiles, FileDrop } from '../import/FileDrop';
import { LayDown } from '../import/LayDown';
import { Bar, Crumbs, Push, WallTones } from '../ui/bar';
import { Button, IconButton, LinkButton } from '../ui/buttons';
import { Dialog, DialogActions, Menu } from '../ui/overlays';
import { Find } from '../ui/find';
import { Wait } from '../ui/wait';
import { isFound } from '../app/found';
import { Stack } from './Stack';
import { useDemo } from './useDemo';

const Room = styled.main`
  height: calc(100vh - var(--bar));
  background: linear-gradient(var(--wall-edge), var(--wall) 14px);
  overflow: hidden auto;
  padding: 30px 26px 34px 34px;
  display: grid;
  grid-template-columns: minmax(380px, 474px) 1fr;
  column-gap: 46px;
  align-content: start;
  @media (max-width: 760px) {
    grid-template-columns: minmax(0, 1fr);
    row-gap: 34px;
  }
`;

const Paper = styled.div`
  background: var(--paper-high);
  box-shadow: var(--shade-label);
  border-radius: var(--r-label);
  position: relative;
  p {
    color: var(--ink-2);
  }
`;

const First = styled(Paper)`
  margin-top: 24px;
  padding: 14px 18px 12px;
  h2 {
    font: 400 var(--t-display) / 1 var(--serif);
    letter-spacing: -0.012em;
    padding-right: 30px;
    overflow-wrap: anywhere;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 3px 12px;
    margin-top: 11px;
  }
  dt {
    color: var(--ink-2);
  }
  dd {
    font-weight: 600;
  }
  > p {
    margin-top: 8px;
    line-height: 1.45;
  }
  .on {
    display: flex;
    align-items: baseline;
    gap: 8px;
    border-top: 1px solid var(--rule);
    margin-top: 11px;
    padding-top: 10px;
    color: var(--ink-2);
  }
  .on b {
    font: 400 17px/1 var(--serif);
    color: var(--ink);
  }
  .on svg {
    width: 16px;
    height: 16px;
    margin-left: auto;
    align-self: center;
  }
`;

const Others = styled.div`
  display: grid;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  gap: 30px 32px;
  align-content: start;
`;

const Small = styled(Paper)`
  padding: 11px 13px;
  margin-top: 22px;
  h2 {
    font: 400 21px/1.1 var(--serif);
    margin-bottom: 3px;
    padding-right: 26px;
    overflow-wrap: anywhere;
  }
`;

const Ways = styled.div`
  display: flex;
  gap: 8px;
  margin: 14px 0 4px;
`;

const Field = styled(TextField)`
  display: grid;
  gap: 5px;
  margin-top: 8px;
  label {
    color: var(--ink-2);
  }
  input {
    height: 34px;
    padding: 0 8px;
    border: 0;
    border-bottom: 1px solid var(--edge);
    background: #fff;
    font: 400 19px var(--serif);
  }
`;

/** With more series than this they are looked for by name. */
const MANY = 8;

const AsideLink = styled(Link)`
  color: var(--ink-2);
  text-decoration: underline;
  text-underline-offset: 3px;
  white-space: nowrap;
`;

const More = styled.div`
  position: absolute;
  right: 6px;
  top: 8px;
`;

function SeriesMore({ series, onTakeOff }: { series: SeriesSummary; onTakeOff: () => void }) {
  return (
    <More>
      <Menu
        label={`More for ${series.title}`}
        trigger={
          <IconButton aria-label={`More for ${series.title}`}>
            <Ellipsis aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'give', text: 'Give away as a package' },
              { id: 'remove', text: 'Take off the shelf' },
            ],
          },
        ]}
        onAction={what => {
          if (what === 'remove') onTakeOff();
          else window.location.assign(addressOf(getPackage, { params: { id: series.id } }));
        }}
      />
    </More>
  );
}

const SHELF = 'the shelf';

/** Takes series off the shelf; undo brings the last back, or the one that was just told of, redo takes it off again. */
function useTakeOff() {
  const client = useQueryClient();
  const { past, future } = useLine(SHELF);
  const deeds = useDeeds.getState();
  const told = toldOf(client);
  useKeys({
    undo: () => (past.length ? void told(deeds.undo(SHELF)) : false),
    redo: () => (future.length ? void told(deeds.redo(SHELF)) : false),
  });
  return ({ id, title }: SeriesSummary) => {
    const params = { id };
    const deed = {
      id: crypto.randomUUID(),
      label: `Take ${title} off the shelf`,
      redo: async () => {
        await call(removeSeries, { params });
        tell({ text: `${title} is off the shelf.`, undo: () => void told(deeds.undoOne(SHELF, deed.id)) });
      },
      undo: () => call(restoreSeries, { params }),
    };
    void told(deeds.perform(SHELF, deed));
  };
}

type Told = Read<(typeof getBackups)['answer']> | undefined;

/** What the shelf's menu says of automatic backups. */
function clockTold(backups: Told): string {
  if (!backups) return 'Automatic backups: none';
  if (backups.problem) return 'Automatic backups: failed';
  return `Automatic backups: ${backups.last ? `last ${whenInWords(backups.last)}` : 'the first is being made'}`;
}

function tellOfBackups(backups: Told): void {
  if (!backups) {
    tell({
      text: 'No automatic backup is made. Start Lamp Wash with LAMPWASH_BACKUPS=FOLDER: then one is made every day.',
    });
    return;
  }
  const { folder, hours, kept, problem } = backups;
  if (problem) {
    tell({ text: `No backup could be made in ${folder}: ${problem}`, tone: 'problem' });
    return;
  }
  tell({ text: `A backup is made every ${hours} hours in ${folder}. The last ${kept} are kept.` });
}

/** Ends what the passphrase opened in this browser; the server's page asks for it again. */
async function signOut(): Promise<void> {
  await fetch('/sign-out', { method: 'POST' }).catch(() => undefined);
  window.location.assign('/');
}

/** The first screen: all series, the last touched first, and a place to lay photographs down. */
export function Shelf() {
  const shelf = useShelf();
  const health = useQuery(healthQuery);
  const backups = useQuery({ queryKey: ['backups'], queryFn: () => call(getBackups, {}) });
  const create = useCreateSeries();
  const takeOff = useTakeOff();
  const demo = useDemo();
  const tour = useTour();
  const client = useQueryClient();
  const navigate = useNavigate();
  const [beginning, setBeginning] = useState(false);
  const [title, setTitle] = useState('');
  const [wanted, setWanted] = useState('');

  const { mutate: createSeries } = create;
  const begin = useCallback(
    (name: string, files: readonly File[]) =>
      createSeries(name, {
        onSuccess: made => {
          if (files.length) bringIn(files, made.id, client);
          void navigate(`/series/${made.id}`);
        },
      }),
    [client, navigate, createSeries],
  );
  const restore = useCallback(() => {
    const noArchives = (files: File[]) =>
      refuse(
        files.map(({ name }) => ({ name, why: 'This is no backup and no package: those end in .tar.' })),
      );
    chooseFiles(noArchives, client, '.tar');
  }, [client]);
  const layDown = useCallback((files: File[]) => files.length && begin('New series', files), [begin]);

  if (shelf.isError) return <Wait problem={messageOf(shelf.error)} />;
  if (!shelf.data) return <Wait />;
  const isLong = shelf.data.length > MANY;
  const looksFor = isLong ? wanted.trim() : '';
  const found = shelf.data.filter(s => isFound(looksFor, `${s.title} ${s.caption}`));
  const [first, ...others] = found;

  return (
    <>
      <Bar>
        <Crumbs here="Shelf" />
        <Push />
        {isLong ? <Find label="Find a series" value={wanted} onChange={setWanted} width={210} /> : null}
        <AsideLink to="/put-aside">Put aside</AsideLink>
        {health.data?.passphrase ? <LinkButton onPress={() => void signOut()}>Sign out</LinkButton> : null}
        <KeysHelp />
        <Menu
          label="More for the shelf"
          trigger={
            <IconButton aria-label="More for the shelf">
              <Ellipsis aria-hidden="true" />
            </IconButton>
          }
          sections={[
            {
              entries: [
                { id: 'tour', text: tour.left ? 'Go on with the tour' : 'Take the tour' },
                demo.isOut
                  ? { id: 'off', text: 'Take the demo off' }
                  : { id: 'out', text: 'Lay out the demo', disabled: demo.busy },
              ],
            },
            {
              entries: [
                { id: 'backup', text: 'Back up the whole shelf' },
                { id: 'clock', text: clockTold(backups.data) },
                { id: 'restore', text: 'Take in a backup or a package …' },
                { id: 'api', text: 'Use it without its screens' },
              ],
            },
          ]}
          onAction={what => {
            if (what === 'tour') tour.begin();
            else if (what === 'off') demo.takeOff();
            else if (what === 'backup') window.location.assign(addressOf(getBackup));
            else if (what === 'clock') tellOfBackups(backups.data);
            else if (what === 'restore') restore();
            else if (what === 'api') void navigate('/without-screens');
            else demo.layOut();
          }}
        />
        <WallTones />
        <Button $ink style={{ marginLeft: 14 }} onPress={() => setBeginning(true)}>
          New series
        </Button>
      </Bar>
      <Room>
        <div>
          {first ? (
            <article aria-label={first.title} data-context>
              <Stack series={first} large />
              <First>
                <h2>
                  <Link to={`/series/${first.id}`}>{first.title}</Link>
                </h2>
                <SeriesMore series={first} onTakeOff={() => takeOff(first)} />
                {first.caption ? <p>{first.caption}</p> : null}
                <dl>
                  <dt>Photographs</dt>
                  <dd>{first.photographs}</dd>
                  <dt>Treated</dt>
                  <dd>{first.treated}</dd>
                  <dt>Touched</dt>
                  <dd>{whenInWords(first.touchedAt)}</dd>
                </dl>
                {first.last ? (
                  <Link className="on" to={`/photographs/${first.last.photographId}`}>
                    Go on with <b>{first.last.title}</b>
                    <ChevronRight aria-hidden="true" />
                  </Link>
                ) : null}
              </First>
            </article>
          ) : looksFor ? (
            <First style={{ marginTop: 0 }}>
              <h2>Nothing found</h2>
              <p>No series is called that. Fewer letters find more.</p>
            </First>
          ) : (
            <First style={{ marginTop: 0 }}>
              <h2>An empty shelf</h2>
              <p>
                A series holds photographs that are shown together. Lay some down to begin one; double click
                one to work on it.
              </p>
              <p>New here? The tour makes a first print with you, in three minutes.</p>
              <Ways>
                <Button $ink onPress={tour.begin}>
                  {tour.left ? 'Go on with the tour' : 'Take the tour'}
                </Button>
                <Button isDisabled={demo.busy} onPress={demo.layOut}>
                  {demo.busy ? 'Laying it out …' : 'Lay out the demo'}
                </Button>
                <Button onPress={restore}>Take in a backup</Button>
              </Ways>
            </First>
          )}
        </div>
        <Others>
          {others.map(s => (
            <article key={s.id} aria-label={s.title} data-context>
              <Stack series={s} />
              <Small>
                <h2>
                  <Link to={`/series/${s.id}`}>{s.title}</Link>
                </h2>
                <SeriesMore series={s} onTakeOff={() => takeOff(s)} />
                <p>
                  {countOf(s.photographs, 'photograph')}, {whenInWords(s.touchedAt)}
                </p>
              </Small>
            </article>
          ))}
          <LayDown
            onFiles={layDown}
            says={`They begin a series. ${PICTURE_KINDS}; the originals stay as they are.`}
          />
        </Others>
      </Room>
      <FileDrop text="Lay them down to begin a series" onFiles={layDown} />
      {beginning ? (
        <Dialog title="New series" onClose={() => setBeginning(false)}>
          <form
            onSubmit={event => {
              event.preventDefault();
              if (!title.trim()) return;
              setBeginning(false);
              begin(title.trim(), []);
            }}
          >
            <Field value={title} onChange={setTitle} maxLength={120} autoFocus isRequired>
              <Label>Title</Label>
              <Input placeholder="What the photographs are about" />
            </Field>
            <DialogActions>
              <Button onPress={() => setBeginning(false)}>Leave it</Button>
              <Button $ink type="submit" isDisabled={!title.trim()}>
                Begin
              </Button>
            </DialogActions>
          </form>
        </Dialog>
      ) : null}
    </>
  );
}
