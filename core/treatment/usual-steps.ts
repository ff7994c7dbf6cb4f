import type { Kind } from '../steps';
import { stepKind, stepKinds } from '../steps';
import type { Stage } from '../steps/define';
import { layBeside } from './alternatives';
import { addArea, layOn } from './areas';
import { addStep, changeStep, copyStep, newStep } from './edit';
import type { Step, Treatment } from './treatment';
import { parseTreatment } from './schema';

/** The steps that there are to add: each kind as it is set out, and the ways in which it is usually set. */

export interface UsualStep {
  /** Another for each. */
  key: string;
  kind: Kind;
  /** What this setting of it is called; null for the kind as it is set out. */
  name: string | null;
  group: string;
  /** The stage that its group belongs to. */
  stage: Stage;
  /** What it is sought by besides its name. */
  words: string;
  settings: object;
  mix?: Step['mix'];
}

interface Listed {
  kind: Kind;
  words?: string;
  /** Usual settings, by their names. */
  ways?: Record<string, object>;
}

const bath = (toner: string, time: number, start: string, contrast = 0) => ({ toner, time, start, contrast });
const baths = (...row: object[]) => ({ baths: row });
const split = (dark: readonly [number, number], light: readonly [number, number]) => ({
  shadows: { hue: dark[0], saturation: dark[1] },
  highlights: { hue: light[0], saturation: light[1] },
});
const curve = (...all: readonly (readonly [number, number])[]) => ({ points: { all } });
const stops = (...all: readonly (readonly [number, string])[]) => ({
  stops: all.map(([at, colour]) => ({ at, colour })),
  interpolation: 'oklab',
});
const response = (of: object) => ({ method: 'response', response: of });

const list: { group: string; stage: Stage; steps: readonly Listed[] }[] = [
  {
    group: 'Light and colour',
    stage: 'ground',
    steps: [
      {
        kind: 'light',
        words: 'exposure brightness',
        ways: {
          'Half a stop lighter': { exposure: 0.5 },
          'Half a stop darker': { exposure: -0.5 },
          'Shadows opened': { shadows: 0.45 },
          'Lights held': { highlights: -0.45 },
        },
      },
      {
        kind: 'white-balance',
        words: 'temperature cast',
        ways: { Warmer: { warmth: 0.3 }, Cooler: { warmth: -0.3 } },
      },
      {
        kind: 'local-contrast',
        words: 'clarity structure haze',
        ways: { 'Texture raised': { medium: 0.35, fine: 0.25 }, 'Haze taken off': { haze: 0.5 } },
      },
      { kind: 'saturation', words: 'vivid dull', ways: { 'Half the colour': { amount: -0.5 } } },
      { kind: 'colour-bands', words: 'hue selective' },
      { kind: 'inks', words: 'cyan magenta yellow black print' },
      { kind: 'three-way-balance', words: 'shadows midtones highlights cast' },
    ],
  },
  {
    group: 'Conversions',
    stage: 'mono',
    steps: [
      {
        kind: 'mono',
        words: 'black and white grey conversion',
        ways: {
          'Sky held down': response({ blue: -0.5, cyan: -0.35, orange: 0.15, yellow: 0.2 }),
          'Skin and brick lifted': response({ red: 0.3, orange: 0.4, yellow: 0.15, blue: -0.15 }),
          'Leaves lifted': response({ green: 0.5, yellow: 0.35 }),
          'Colours kept apart': { method: 'local-contrast' },
          'Old plate': { method: 'channels', channels: { red: 0.02, green: 0.28, blue: 0.7, constant: 0 } },
        },
      },
    ],
  },
  {
    group: 'Toning baths',
    stage: 'tone',
    steps: [
      {
        kind: 'baths',
        words: 'toner chemical paper',
        ways: {
          Sepia: baths(bath('sepia', 0.55, 'highlights', 0.1)),
          Selenium: baths(bath('selenium', 0.7, 'shadows')),
          'Sepia, then selenium': baths(
            bath('sepia', 0.4, 'highlights', 0.4),
            bath('selenium', 0.65, 'shadows', 0.2),
          ),
          'Sepia, then gold': baths(bath('sepia', 0.45, 'highlights', 0.2), bath('gold', 0.6, 'highlights')),
          Gold: baths(bath('gold', 0.7, 'highlights')),
          Copper: baths(bath('copper', 0.5, 'even')),
          'Iron blue': baths(bath('iron-blue', 0.5, 'even')),
          Nickel: baths(bath('nickel', 0.5, 'even')),
          'Old paper': { ...baths(bath('sepia', 0.3, 'highlights')), paper: { age: 0.45 } },
        },
      },
    ],
  },
  {
    group: 'Split tone and tint',
    stage: 'tone',
    steps: [
      {
        kind: 'split-tone',
        words: 'duotone shadows highlights',
        ways: {
          'Split, warm': split([24, 0.3], [46, 0.28]),
          'Split, cold darks': split([235, 0.3], [46, 0.25]),
          'Split, cold': split([225, 0.3], [205, 0.18]),
          'Split, warm darks': split([28, 0.35], [220, 0.16]),
        },
      },
      {
        kind: 'tint',
        words: 'one colour monochrome',
        ways: { 'Warm tint': { hue: 38, saturation: 0.18 }, 'Cold tint': { hue: 222, saturation: 0.16 } },
      },
    ],
  },
  {
    group: 'Curve and levels',
    stage: 'tone',
    steps: [
      {
        kind: 'curve',
        words: 'contrast tone',
        ways: {
          Firm: curve([0, 0], [0.25, 0.19], [0.75, 0.81], [1, 1]),
          'Soft matte': curve([0, 0.09], [0.25, 0.265], [0.75, 0.77], [1, 0.95]),
          'Lifted darks': curve([0, 0.04], [0.25, 0.34], [0.75, 0.79], [1, 1]),
        },
      },
      { kind: 'levels', words: 'black white point gamma' },
    ],
  },
  {
    group: 'Maps, filters, tables',
    stage: 'colour',
    steps: [
      {
        kind: 'gradient-map',
        words: 'duotone tritone ramp',
        ways: {
          'Umber to cream': stops([0, '#1a1310'], [0.5, '#8a6f56'], [1, '#f6ecd8']),
          'Indigo to ivory': stops([0, '#10182c'], [0.5, '#66788c'], [1, '#f5efe0']),
          'Wine to rose': stops([0, '#1f0f14'], [0.5, '#8d6168'], [1, '#f8e9e2']),
        },
      },
      { kind: 'filter', words: 'glass gel', ways: { 'Amber glass': { colour: '#d9a066', density: 0.4 } } },
      { kind: 'colour-table', words: 'cube lut film' },
    ],
  },
  {
    group: 'In areas',
    stage: 'colour',
    steps: [
      { kind: 'wash', words: 'hand tint paint pigment colour' },
      { kind: 'keep-colour', words: 'spot colour original' },
      { kind: 'local-light', words: 'dodge burn lighten darken' },
    ],
  },
  {
    group: 'Finish',
    stage: 'finish',
    steps: [
      {
        kind: 'vignette',
        words: 'corners edges',
        ways: {
          'Corners burned': { amount: -0.35, size: 0.6, feather: 0.8 },
          'Corners faded': { amount: 0.35, size: 0.6, feather: 0.8 },
        },
      },
      {
        kind: 'grain',
        words: 'film noise',
        ways: {
          'Fine grain': { amount: 0.2, character: 'fine', size: 0.4 },
          'Coarse grain': { amount: 0.35, character: 'coarse' },
        },
      },
      {
        kind: 'glow',
        words: 'halation soft focus bloom',
        ways: { 'Soft light': { amount: 0.35, radius: 0.02 } },
      },
      { kind: 'sharpen', words: 'sharp unsharp', ways: { 'For print': { amount: 0.9, radius: 0.0005 } } },
    ],
  },
];

/** The kinds that no group lists stand by themselves: whoever adds one need not know of this list. */
const alone = stepKinds
  .filter(({ kind }) => !list.some(g => g.steps.some(s => s.kind === kind)))
  .map(({ kind, stage }) => ({ group: 'More', stage, steps: [{ kind }] as readonly Listed[] }));

/** All of them: first the groups of a stage, then the others in working order. */
export function usualSteps(stage: Stage): UsualStep[] {
  const all = [...list, ...alone];
  const first = all.filter(g => g.stage === stage);
  return [...first, ...all.filter(g => g.stage !== stage)].flatMap(({ group, stage: of, steps }) =>
    steps.flatMap(({ kind, words = '', ways = {} }): UsualStep[] => {
      const shared = { kind, group, stage: of, words: `${words} ${kind.replaceAll('-', ' ')}` };
      return [
        { ...shared, key: kind, name: null, settings: {} },
        ...Object.entries(ways).map(([name, settings]) => ({
          ...shared,
          key: `${kind} ${name}`,
          name,
          settings,
        })),
      ];
    }),
  );
}

/** What a usual step becomes in a treatment. */
export interface SetOut {
  /** The id of the new step. */
  step: string;
  /** With the step over the whole picture: how it is tried. */
  tried: Treatment;
  /** With the step as it is begun: a kind for parts of the picture lies on a new empty area. */
  begun: Treatment;
}

/** Settings of a kind where some are given: the rest as it is set out, checked as the format has them. */
function settingsOf(kind: Kind, given: object): Step['settings'] {
  const merged = parseTreatment({
    format: 'lampwash-treatment',
    version: 1,
    steps: [{ kind, settings: { ...stepKind(kind)!.fresh, ...given } }],
  });
  return merged.steps[0].settings;
}

const settled = new Map<string, Step['settings']>();

/** Adds a usual step as the last of a stage. Throws a RangeError where the treatment has no room for it. */
export function setOut(treatment: Treatment, { key, kind, name, settings }: UsualStep, stage: Stage): SetOut {
  const fresh = newStep(treatment, kind, stage);
  if (!settled.has(key)) settled.set(key, settingsOf(kind, settings));
  const step = name === null ? fresh : ({ ...fresh, settings: structuredClone(settled.get(key)!) } as Step);
  const tried = addStep(treatment, step);
  if (!stepKind(kind)!.startsOnArea) return { step: step.id, tried, begun: tried };
  const { treatment: withArea, area } = addArea(tried);
  return { step: step.id, tried, begun: layOn(withArea, step.id, area) };
}

/**
 * Adds a usual step as an alternative of one that is there: in its tray, at work in its place, on the same area,
 * under the name of its usual setting, by which one is told from the other.
 * Throws a RangeError where the treatment has no room for it.
 */
export function setOutBeside(treatment: Treatment, usual: UsualStep, besideId: string): SetOut {
  const beside = treatment.steps.find(s => s.id === besideId);
  if (!beside) throw new RangeError(`there is no step ${besideId}`);
  const { step, tried } = setOut(treatment, usual, beside.stage);
  const named = changeStep(tried, step, { mask: beside.mask, name: usual.name ?? '' });
  const laid = layBeside(named, step, besideId);
  return { step, tried: laid, begun: laid };
}

/** A second of a step as its alternative, on: the same until it is changed. */
export function sameBeside(treatment: Treatment, besideId: string): SetOut {
  const { treatment: twice, copy } = copyStep(treatment, besideId);
  const laid = layBeside(changeStep(twice, copy, { enabled: true }), copy, besideId);
  return { step: copy, tried: laid, begun: laid };
}
