import type { Finding } from '../../core/steps/define';
import { wordFor } from '../../words/words';
import type { Fields } from '../../core/settings/fields';
import { writtenAs } from '../../words/units';

/**
 * What an automatic setting came to, in one sentence.
 * @param fields of the kind that it was found for
 */
export function findingInWords(said: Finding, fields: Fields): string {
  switch (said.what) {
    case 'parted':
      return `Parted ${said.darker} from ${said.lighter} by ${said.by} of 255.`;
    case 'nothing-to-part':
      return 'There is nothing to part: no two colours here fall on the same grey.';
    case 'moved': {
      if (said.settings.length === 0) return 'The light is right as it is: nothing was moved.';
      const list = said.settings.map(([name, value], i) => {
        const word = wordFor(name);
        const field = fields[name];
        const number = field.type === 'number' ? writtenAs(field, value) : String(value);
        return `${i ? word.toLowerCase() : word} ${number}`;
      });
      return `${list.join(', ')}.`;
    }
  }
}
