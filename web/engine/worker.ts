import { expose, transfer } from 'comlink';
import { mostChroma } from '../../core/colour/gamut';
import type { Treatment } from '../../core/treatment/treatment';
import { checkCarried, hold, type CarriedKind } from '../../core/formats/carried';
import { band, type BandRequest } from './bands';
import { areaPng, loupe } from './full';
import { readyFor } from './pixels';
import {
  attach,
  detach,
  learn,
  prepare,
  show,
  showStroke,
  warm,
  type Share,
  type ShowRequest,
  type StrokeRequest,
} from './screen';
import { Receiver, type Sent } from './sent-treatment';
import {
  advice,
  areaLook,
  automatic,
  beginnings,
  charts,
  colourAt,
  histogram,
  moves,
  picture,
  reading,
  seenAs,
  tones,
} from './small';

/** Held as long as this worker lives, under its own name: so the page sees when it has died. */
const living = new Promise<void>(done => {
  if (!navigator.locks) return done();
  void navigator.locks.request(self.name, () => {
    done();
    return new Promise(() => undefined);
  });
});

/** A stroke under way, as it is sent. */
export type SentStroke = Omit<StrokeRequest, 'base'> & { base: Sent<ShowRequest> | null };

const receiver = new Receiver();
const received = <R extends { treatment: Treatment }>(sent: Sent<R>): R =>
  // eslint-disable-next-line no-restricted-syntax -- what was sent with its treatment is with it again
  ({ ...sent, treatment: receiver.receive(sent.treatment) }) as unknown as R;

/** What the interface asks of a worker: one draws the large picture, another makes small ones. */
const engine = {
  /** Resolves when the worker is there, and its lock is held. */
  living: () => living,
  /** Ends the worker, as if it had died. */
  end: () => self.close(),
  /** Bytes that treatments refer to. */
  hold,
  /** Reads bytes to the end for what they are to be carried as; what is wrong with them, or null. */
  check: (kind: CarriedKind, sha256: string, bytes: Uint8Array): string | null => {
    hold(sha256, bytes);
    try {
      checkCarried(kind, { sha256 });
      return null;
    } catch (error) {
      return (error as Error).message;
    }
  },
  attach,
  detach,
  prepare: (id: number, sent: Sent<ShowRequest>) => prepare(id, received(sent)),
  learn,
  show: (id: number, sent: Sent<ShowRequest>, share: Share) => show(id, received(sent), share),
  showStroke: (id: number, { base, ...rest }: SentStroke, share: Share) =>
    showStroke(id, { ...rest, base: base && received(base) }, share),
  warm,
  readyFor,
  band: async (request: BandRequest) => {
    const made = await band(request);
    return made && transfer(made, [made.image]);
  },
  picture,
  tones,
  areaLook,
  histogram,
  charts,
  colourAt,
  advice,
  automatic,
  beginnings,
  reading,
  seenAs,
  moves,
  loupe,
  areaPng,
};

export type Engine = typeof engine;
expose(engine);

// Tables that the first picture would otherwise wait for.
mostChroma(0.5, 0);
