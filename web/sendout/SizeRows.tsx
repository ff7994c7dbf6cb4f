import type { SendOutSettings } from '../../contract/send-outs';
import { LONGEST_EDGE } from '../../contract/limits';
import { outputEdge, writtenDpi, type OutputSize } from '../../core/frame/output-size';
import { Picker } from '../ui/overlays';
import { Row, Small, Two } from '../ui/rows';
import { TypedNumber } from '../ui/typed-number';

const PLAIN = { shownTimes: 1, unit: '', centred: false };
const WHOLE = { ...PLAIN, step: 1, decimals: 0 };
const FINE = { ...PLAIN, step: 0.5, decimals: 2, leastDecimals: 0 };

type Way = 'full' | 'long-edge' | 'short-edge' | 'megapixels' | 'cm' | 'inch';

const WAYS: { value: Way; text: string }[] = [
  { value: 'full', text: 'Full size' },
  { value: 'long-edge', text: 'Long edge, pixels' },
  { value: 'short-edge', text: 'Short edge, pixels' },
  { value: 'megapixels', text: 'Megapixels' },
  { value: 'cm', text: 'Print, long edge in cm' },
  { value: 'inch', text: 'Print, long edge in inches' },
];

const wayOf = (size: OutputSize): Way => (size.by === 'print' ? size.unit : size.by);

/** What a way begins with. */
function begun(way: Way, largest: number): OutputSize {
  const pixels = Math.min(2400, largest || 2400);
  switch (way) {
    case 'full':
      return { by: 'full' };
    case 'long-edge':
      return { by: 'long-edge', pixels };
    case 'short-edge':
      return { by: 'short-edge', pixels: Math.min(1600, pixels) };
    case 'megapixels':
      return { by: 'megapixels', megapixels: 6 };
    case 'cm':
      return { by: 'print', length: 30, unit: 'cm' };
    case 'inch':
      return { by: 'print', length: 12, unit: 'inch' };
  }
}

/** A number of a size, with its bounds, and the size with another. */
function numberOf(size: OutputSize) {
  const shared = { least: 16, most: LONGEST_EDGE, shown: WHOLE };
  switch (size.by) {
    case 'full':
      return null;
    case 'megapixels':
      return {
        value: size.megapixels,
        name: 'Megapixels',
        least: 0.01,
        most: 400,
        shown: FINE,
        set: (megapixels: number): OutputSize => ({ ...size, megapixels }),
      };
    case 'print':
      return {
        value: size.length,
        name: size.unit === 'cm' ? 'Long edge in cm' : 'Long edge in inches',
        least: 0.5,
        most: 1000,
        shown: FINE,
        set: (length: number): OutputSize => ({ ...size, length }),
      };
    default:
      return {
        ...shared,
        value: size.pixels,
        name: size.by === 'long-edge' ? 'Long edge in pixels' : 'Short edge in pixels',
        set: (pixels: number): OutputSize => ({ ...size, pixels: Math.round(pixels) }),
      };
  }
}

/** How large files become, and the resolution that they say. */
export function SizeRows({
  settings: { size, dpi },
  pictures,
  onChange,
}: {
  settings: Pick<SendOutSettings, 'size' | 'dpi'>;
  /** The pictures that go out, in pixels. */
  pictures: readonly { width: number; height: number }[];
  onChange: (change: Partial<SendOutSettings>) => void;
}) {
  const largest = pictures.reduce((most, p) => Math.max(most, p.width, p.height), 0);
  const number = numberOf(size);
  const smallest = pictures.toSorted((a, b) => a.width * a.height - b.width * b.height)[0] as
    { width: number; height: number } | undefined;
  const few =
    size.by === 'print' && smallest
      ? writtenDpi(size, dpi, { width: outputEdge(size, dpi, smallest), height: 1 })
      : dpi;
  return (
    <>
      <Row>
        <span>Size</span>
        <Two>
          <Picker
            label="Size"
            value={wayOf(size)}
            options={WAYS}
            onChange={way => onChange({ size: begun(way, largest) })}
          />
          {number ? (
            <TypedNumber
              key={number.name}
              {...number.shown}
              name={number.name}
              value={number.value}
              min={number.least}
              max={number.most}
              onTyped={v => onChange({ size: number.set(v) })}
            />
          ) : null}
        </Two>
      </Row>
      <Row>
        <span>Resolution</span>
        <Two>
          {Math.round(few) < dpi ? (
            <Small>The smallest picture has {Math.round(few)} dots an inch at this size.</Small>
          ) : (
            <Small>dots an inch</Small>
          )}
          <TypedNumber
            {...WHOLE}
            name="Resolution in dots an inch"
            value={dpi}
            min={36}
            max={2400}
            onTyped={v => onChange({ dpi: v })}
          />
        </Two>
      </Row>
    </>
  );
}
