import { useEffect, useState } from 'react';
import { messageOf } from '../app/api';
import { onReturn } from '../app/away';
import { tell } from '../app/notices';
import { holds } from '../app/outdated';
import { openSession, type TakeSession } from '../takes/session';

/** What became of opening a take; of the same try alone. */
interface Opened {
  takeId: string;
  tried: number;
  session: TakeSession | null;
  problem: string | null;
}

/** Opens the session of a take: its state on the server, and what an earlier window could not save. */
export function useSession(takeId: string): { session: TakeSession | null; problem: string | null } {
  const [opened, setOpened] = useState<Opened | null>(null);
  /** Counts the times that it is tried again, since all has come back. */
  const [tried, setTried] = useState(0);
  useEffect(() => {
    let stale = false;
    let session: TakeSession | null = null;
    openSession(takeId, text => tell({ text }))
      .then(made => {
        session = made;
        if (stale) made.close();
        else setOpened({ takeId, tried, session: made, problem: null });
      })
      .catch((error: unknown) => {
        if (!stale) setOpened({ takeId, tried, session: null, problem: messageOf(error) });
      });
    const leave = () => session?.close();
    const hide = () => {
      if (document.visibilityState === 'hidden') void session?.flush();
    };
    const warn = (event: BeforeUnloadEvent) => {
      if (session?.hasUnsaved) event.preventDefault();
    };
    const again = onReturn(() => {
      if (session) void session.flush();
      else setTried(n => n + 1);
    });
    const letGo = holds(() => session?.hasUnsaved ?? false);
    window.addEventListener('pagehide', leave);
    document.addEventListener('visibilitychange', hide);
    window.addEventListener('beforeunload', warn);
    return () => {
      stale = true;
      again();
      letGo();
      window.removeEventListener('pagehide', leave);
      document.removeEventListener('visibilitychange', hide);
      window.removeEventListener('beforeunload', warn);
      session?.close();
    };
  }, [takeId, tried]);
  const isOfThis = opened?.takeId === takeId && opened.tried === tried;
  return { session: isOfThis ? opened.session : null, problem: isOfThis ? opened.problem : null };
}
