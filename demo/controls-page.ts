import { carry } from '../core/formats/carried';
import type { Field, Fields } from '../core/settings/fields';
import { stages } from '../core/steps/define';
import { stepKind, stepKinds, type Kind } from '../core/steps';
import type { Treatment } from '../core/treatment/treatment';
import { parseTreatment } from '../core/treatment/schema';
import { aboutControl, aboutOption, aboutStep, keyOfControl } from '../words/told';
import { nameOfSetting } from '../words/setting-name';
import { listed, wordFor, wordWithin } from '../words/words';
import { writtenAs } from '../words/units';
import { sampleOf, SAMPLE_TABLE, sampleMasks } from './controls';

/** The page "What each control does": made from the descriptions of the step kinds, so that it stays true. */

/** The treatments of a kind's three pictures. */
export function sampleTreatments(kind: Kind): Treatment[] {
  const { settings, beneath = [], laid = {} } = sampleOf(kind);
  const table = carry(new TextEncoder().encode(SAMPLE_TABLE));
  return settings.map(of =>
    parseTreatment({
      format: 'lampwash-treatment',
      version: 1,
      steps: [...beneath, { kind, ...laid, settings: of }],
      masks: sampleMasks,
      tables: kind === 'colour-table' ? { t: table } : {},
    }),
  );
}

/** What a setting may be, in words. */
function rangeOf(field: Field): string {
  switch (field.type) {
    case 'number':
      return ` ${writtenAs(field, field.min)} to ${writtenAs(field, field.max)}, ${writtenAs(field, field.default)} at first.`;
    case 'flag':
      return field.default ? ' On at first.' : ' Off at first.';
    default:
      return '';
  }
}

/** The settings of a kind that are no groups, by their paths. */
function leaves(fields: Fields, at: readonly string[] = []): { path: string[]; field: Field }[] {
  return Object.entries(fields).flatMap(([key, field]) => {
    if (field.type === 'group') return leaves(field.fields, [...at, key]);
    return field.type === 'list' ? leaves(field.fields, at) : [{ path: [...at, key], field }];
  });
}

/** A line for each setting, and for those that are the same of several ranges one: the first, and what else it is there for. */
function linesOf(kind: Kind): string[] {
  const alike = new Map<string, { path: string[]; field: Field }[]>();
  for (const leaf of leaves(stepKind(kind)!.fields)) {
    const key = keyOfControl(kind, leaf.path.join('.'));
    if (key !== null) alike.set(key, [...(alike.get(key) ?? []), leaf]);
  }
  return [...alike.values()].flatMap(([{ path, field }, ...rest]) => {
    const own = path[path.length - 1];
    const others = rest.map(r =>
      wordWithin(r.path.at(-2) ?? kind, r.path.at(r.path.at(-1) === own ? -2 : -1)!),
    );
    const also = others.length ? ` (and ${listed(others.map(o => o.toLowerCase()))})` : '';
    const options = field.type === 'choice' ? field.options : [];
    return [
      `- **${nameOfSetting(path)}**${also}: ${aboutControl(kind, path.join('.'))}${rangeOf(field)}`,
      ...options.map(o => `  - ${wordWithin(own, o)}: ${aboutOption(kind, path.join('.'), o)}`),
    ];
  });
}

export function controlsPage(): string {
  const out = [
    '# What each control does',
    '',
    'One photograph a step, made by the engine: the control named under it at its lower end, as it is set out, and at its upper end.',
    'This page is made by `npm run controls`; the sentences are those of the Bench: at the foot of the panel, and beside a control when its name is pointed at.',
    '',
  ];
  for (const stage of stages) {
    out.push(`## ${wordFor(stage)}`, '');
    for (const { kind } of stepKinds.filter(k => k.stage === stage)) {
      const { control, says } = sampleOf(kind);
      out.push(
        `### ${wordFor(kind)}`,
        '',
        aboutStep(kind),
        '',
        `![${wordFor(kind)}: ${control} ${says.join(', ')}](pictures/controls/${kind}.webp)`,
        '',
        `${control}: ${says.join(' · ')}`,
        '',
        ...linesOf(kind),
        '',
      );
    }
  }
  return `${out.join('\n').trimEnd()}\n`;
}
