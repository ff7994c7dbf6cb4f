import { carry } from '../core/formats/carried';
import type { Field, Fields } from '../core/settings/fields';
import { stages } from '../core/steps/define';
import { stepKind, stepKinds, type Kind } from '../core/steps';
import { parseTreatment, type Treatment } from '../core/treatment/schema';
import { aboutStep } from '../web/app/about';
import { wordFor, wordWithin } from '../words/words';
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
function rangeOf(name: string, field: Field): string {
  switch (field.type) {
    case 'number':
      return `${writtenAs(field, field.min)} to ${writtenAs(field, field.max)}, ${writtenAs(field, field.default)} at first`;
    case 'choice':
      return field.options.map(o => wordWithin(name, o).toLowerCase()).join(', ');
    case 'flag':
      return field.default ? 'on at first' : 'off at first';
    case 'group':
    case 'list':
      return linesOf(field.fields, name)
        .map(line => line.charAt(0).toLowerCase() + line.slice(1))
        .join('; ');
    default:
      return '';
  }
}

/** Settings in words, those that may be the same on one line. */
function linesOf(fields: Fields, within = ''): string[] {
  const names = new Map<string, string[]>();
  for (const [name, field] of Object.entries(fields)) {
    const range = rangeOf(name, field);
    names.set(range, [...(names.get(range) ?? []), wordWithin(within, name)]);
  }
  return Array.from(names, ([range, words]) => {
    const list = words.map((word, i) => (i ? word.toLowerCase() : word)).join(', ');
    return range ? `${list}: ${range}` : list;
  });
}

export function controlsPage(): string {
  const out = [
    '# What each control does',
    '',
    'One photograph a step, made by the engine: the control named under it at its lower end, as it is set out, and at its upper end.',
    'This page is made by `npm run controls`; the sentences are those at the foot of the panel.',
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
        ...linesOf(stepKind(kind)!.fields).map(line => `- ${line}`),
        '',
      );
    }
  }
  return `${out.join('\n').trimEnd()}\n`;
}
