import type { Response } from 'express';
import PQueue from 'p-queue';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { slug } from '../../contract/file-name';
import { makeSheet, makeStripSheet } from '../../contract/sheets';
import { isAtWork } from '../../core/treatment/alternatives';
import { wholeFrame } from '../../core/frame/frame';
import type { Treatment } from '../../core/treatment/treatment';
import { settingsOfStep } from '../../words/step-settings';
import { tellStep, type Told } from '../../words/step-told';
import { share, type Setting } from '../../words/setting';
import { takeInWords } from '../../words/words';
import { writtenAs } from '../../words/units';
import { currentTreatment } from '../data/history';
import { Photograph, type Take } from '../data/models';
import { barePicture, partPicture, smallPicture } from '../jobs/small-picture';
import type { Services } from '../services';
import type { Pictured } from '../sheets/contact-sheet';
import type { Sheet } from '../sheets/draw-sheet';
import type { PaperFile } from '../sheets/paper';
import type { Card, CardStep } from '../sheets/treatment-card';
import { notFound, Problem } from './problem';
import { implement } from './route';
import { findSeries } from './series';
import { findTake, takesIn } from './takes';
import { giveZip } from './zip';

/** The pictures of a sheet have so many pixels along their long edge: 300 dots an inch at 8 cm. */
const EDGE = 960;
/** Those beside the steps of a card are small. */
const STEP_EDGE = 480;
/** So many of a treatment's steps have a picture of their own, the first; and of all treatments on cards together. */
const MOST_PICTURED = 40;
const MOST_ON_CARDS = 400;
/** Made at once. */
const AT_ONCE = 3;
/** A sheet may take so long to draw: hundreds of pages as pictures do. */
const MOST_SECONDS = 600;
/** Width by height of a cell: as most pictures of the series are. */
const SHAPES = [3 / 2, 1, 2 / 3];

const today = () =>
  new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

/** The shape that is nearest to that of most photographs. */
function shapeOf(photographs: readonly Photograph[]): number {
  const wide = photographs.map(p => p.width / p.height).toSorted((a, b) => a - b);
  const middle = wide[wide.length >> 1];
  const off = (shape: number) => Math.abs(Math.log(shape / middle));
  return SHAPES.toSorted((a, b) => off(a) - off(b))[0];
}

/** Answers with the files of a sheet: one as it is, several pages as a zip. */
async function give(res: Response, name: string, files: readonly PaperFile[]): Promise<void> {
  if (files.length > 1) {
    const made = new Date();
    const pages = files.map(({ bytes, ending }, i) => ({
      name: `${name}-${String(i + 1).padStart(2, '0')}.${ending}`,
      made,
      open: () => Readable.from([Buffer.from(bytes)]),
    }));
    await giveZip(res, `${name}.zip`, pages);
    return;
  }
  const [{ bytes, ending, mediaType }] = files;
  res.attachment(`${name}.${ending}`).type(mediaType);
  res.end(Buffer.from(bytes));
}

/** What is so of a treatment as a whole: its strength, its frame. */
function wholeTold({ strength, frame }: Treatment): Told[] {
  const whole = wholeFrame();
  const { crop, angle, quarterTurns, mirror } = frame;
  const percent = (v: number) => `${Math.round(v * 100)} %`;
  const told: [boolean, string, string][] = [
    [strength < 1, 'Strength of the whole', writtenAs(share, strength)],
    [
      JSON.stringify(crop) !== JSON.stringify(whole.crop),
      'Cropped to',
      `${percent(crop.width)} of the width from ${percent(crop.x)}, ${percent(crop.height)} of the height from ${percent(crop.y)}`,
    ],
    [angle !== 0, 'Straightened by', `${angle.toFixed(1)}°`],
    [quarterTurns !== 0, 'Turned by', `${quarterTurns * 90}°`],
    [mirror, 'Mirrored', 'left and right'],
  ];
  return told.flatMap(([isSo, name, value]) => (isSo ? [{ name, value }] : []));
}

/** Sheets to print. */
export function sheetRoutes(services: Services) {
  const queue = () => new PQueue({ concurrency: AT_ONCE });
  const pictureOf = async (path: Promise<string>) => readFile(await path);
  const draw = (sheet: Sheet) => services.sheets.run(sheet, { seconds: MOST_SECONDS });

  /** The picture after each of the steps at work, and what they are set to. */
  const cardOf = async (series: string, take: Take, photograph: Photograph): Promise<Card> => {
    const treatment = await currentTreatment(take);
    const steps = treatment.steps.filter(step => isAtWork(step) && step.strength > 0);
    const after = steps.map((step, i) => async (): Promise<CardStep> => {
      // What comes after it is left out; the strength of the whole is said by itself.
      const of = (whole: Treatment): Treatment => ({ ...whole, strength: 1, steps: steps.slice(0, i + 1) });
      if (i >= MOST_PICTURED) return { ...tellStep(treatment, step), jpeg: null };
      const jpeg = await pictureOf(
        partPicture(services, take, photograph, { edge: STEP_EDGE, name: `steps ${i + 1}`, of }),
      );
      return { ...tellStep(treatment, step), jpeg };
    });
    return {
      series,
      title: photograph.title,
      take: takeInWords(take),
      date: today(),
      bare: await pictureOf(barePicture(services, take, photograph, EDGE)),
      finished: await pictureOf(smallPicture(services, take, photograph, EDGE)),
      whole: wholeTold(treatment),
      steps: await queue().addAll(after),
    };
  };

  return [
    implement(makeSheet, async ({ params, body: { takes: ids, settings } }, _req, res) => {
      const series = await findSeries(params.id);
      const shown = await takesIn(series, ids);
      const { title } = series;
      const named = (what: string) => `${slug(title) || 'series'}-${what}`;
      if (settings.kind === 'card') {
        const [first] = shown;
        const name =
          shown.length > 1
            ? named('treatment-cards')
            : `${slug(first.photograph.title) || 'photograph'}-treatment-card`;
        const treatments = await Promise.all(shown.map(s => currentTreatment(s.take)));
        const steps = treatments.reduce((sum, of) => sum + of.steps.length, 0);
        if (shown.length > 1 && steps > MOST_ON_CARDS) {
          const most = `Cards are made of at most ${MOST_ON_CARDS} steps at once; these have ${steps}. Take fewer photographs.`;
          throw new Problem(409, 'These are too many for one file.', most);
        }
        const cards: Card[] = [];
        for (const { take, photograph } of shown) cards.push(await cardOf(title, take, photograph));
        await give(res, name, await draw({ title, as: settings.as, what: 'cards', cards, how: settings }));
        return;
      }
      const isPairs = settings.kind === 'before-after';
      const made = await queue().addAll(
        shown.map(({ take, photograph, number }) => async (): Promise<Pictured[]> => {
          const jpeg = await pictureOf(smallPicture(services, take, photograph, EDGE));
          const treated = { jpeg, number: String(number), title: photograph.title, note: takeInWords(take) };
          if (!isPairs) return [treated];
          const bare = await pictureOf(barePicture(services, take, photograph, EDGE));
          return [
            { jpeg: bare, number: String(number), title: photograph.title, note: 'As it came' },
            { ...treated, number: '', title: '' },
          ];
        }),
      );
      const columns = isPairs ? Math.max(2, settings.columns - (settings.columns % 2)) : settings.columns;
      const shape = shapeOf(shown.map(s => s.photograph));
      const name = named(isPairs ? 'before-and-after' : 'contact-sheet');
      const how = { ...settings, columns, shape };
      const sheet = { title, as: settings.as, date: today(), pictures: made.flat(), how };
      await give(res, name, await draw({ what: 'pictures', ...sheet }));
    }),
    implement(makeStripSheet, async ({ params, body: { step: id, pictures, settings } }, _req, res) => {
      const take = await findTake(params.id);
      const photograph = await Photograph.findByPk(take.photographId);
      if (!photograph) throw notFound('photograph');
      const treatment = await currentTreatment(take);
      const step = treatment.steps.find(s => s.id === id);
      if (!step) throw notFound('step');
      const all = settingsOfStep(treatment, step, photograph);
      const found = (name: string): Setting => {
        const setting = all.find(s => s.name === name);
        if (!setting)
          throw new Problem(400, `This step has no setting that is called ${JSON.stringify(name)}.`);
        return setting;
      };
      const wanted = pictures.map(values =>
        values.map(({ name, value }) => {
          const setting = found(name);
          if (setting.type === 'number') {
            const { min, max } = setting.field;
            if (typeof value !== 'number' || value < min || value > max)
              throw new Problem(400, `${name} is a number from ${min} to ${max}.`);
            return {
              told: `${name} ${setting.written(value)}`,
              apply: (of: Treatment) => setting.apply(of, value),
            };
          }
          if (typeof value !== 'string' || !setting.options.includes(value))
            throw new Problem(400, `${name} is one of ${setting.options.join(', ')}.`);
          return {
            told: `${name} ${setting.written(value)}`,
            apply: (of: Treatment) => setting.apply(of, value),
          };
        }),
      );
      const made = await queue().addAll(
        wanted.map((values, i) => async (): Promise<Pictured> => {
          const of = (whole: Treatment) => values.reduce((now, { apply }) => apply(now), whole);
          const name = `strip ${id} ${JSON.stringify(pictures[i])}`;
          const jpeg = await pictureOf(partPicture(services, take, photograph, { edge: EDGE, name, of }));
          return {
            jpeg,
            number: String(i + 1),
            title: values.map(v => v.told).join(', '),
            note: takeInWords(take),
          };
        }),
      );
      const name = `${slug(photograph.title) || 'photograph'}-test-strip`;
      const how = { ...settings, shape: photograph.width / photograph.height };
      const sheet = { title: photograph.title, as: settings.as, date: today(), pictures: made, how };
      await give(res, name, await draw({ what: 'pictures', ...sheet }));
    }),
  ];
}
