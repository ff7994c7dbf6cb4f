import { Ellipsis } from 'lucide-react';
import { useRef } from 'react';
import type { Interpolation, Stop } from '../../core/colour/gradient';
import { GradientError, readGradient, writeGradient, writeGradientCss } from '../../core/formats/gradients';
import { messageOf } from '../app/api';
import { tell } from '../app/notices';
import { IconButton } from '../ui/buttons';
import { Menu } from '../ui/overlays';
import { save } from '../ui/save';

const MOST_BYTES = 1e6;

/** A gradient out as a file or as text, and in from one. */
export function GradientFiles({
  stops,
  interpolation,
  onStops,
}: {
  stops: Stop[];
  interpolation: Interpolation;
  onStops: (stops: Stop[], what: string) => void;
}) {
  const input = useRef<HTMLInputElement>(null);
  const gradient = { name: '', interpolation, stops };
  const copy = () =>
    navigator.clipboard.writeText(writeGradientCss(gradient)).then(
      () => tell({ text: 'The gradient is copied as CSS.' }),
      () => tell({ text: 'The browser did not let it be copied: save it as CSS.', tone: 'problem' }),
    );
  const bringIn = async (file: File) => {
    try {
      if (file.size > MOST_BYTES) throw new GradientError('it is too large for a gradient');
      const read = readGradient(await file.text());
      onStops(read.stops, `stops from ${file.name}`);
    } catch (error) {
      tell({ text: `${file.name}: ${messageOf(error)}`, tone: 'problem' });
    }
  };
  return (
    <>
      <Menu
        label="More for the gradient"
        trigger={
          <IconButton aria-label="More for the gradient">
            <Ellipsis aria-hidden="true" />
          </IconButton>
        }
        sections={[
          {
            entries: [
              { id: 'in', text: 'Bring in JSON or CSS' },
              { id: 'json', text: 'Save as JSON' },
              { id: 'css', text: 'Save as CSS' },
              { id: 'copy', text: 'Copy as CSS' },
            ],
          },
        ]}
        onAction={what => {
          if (what === 'in') input.current?.click();
          else if (what === 'json') save(writeGradient(gradient), 'gradient.json', 'application/json');
          else if (what === 'css') save(writeGradientCss(gradient), 'gradient.css', 'text/css');
          else void copy();
        }}
      />
      <input
        ref={input}
        type="file"
        accept=".json,.css"
        aria-label="Bring in a gradient"
        hidden
        onChange={event => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (file) void bringIn(file);
        }}
      />
    </>
  );
}
