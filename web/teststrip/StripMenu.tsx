import { Menu } from '../ui/overlays';
import { IconButton } from '../ui/buttons';
import type { TestStrip } from './useTestStrip';

/** Five bands, darker and darker. */
function Bands() {
  return (
    <svg viewBox="0 0 16 16" aria-hidden="true" style={{ strokeWidth: 0 }}>
      {[0.25, 0.4, 0.55, 0.75, 1].map((dark, i) => (
        <rect key={dark} x={1 + i * 3} y="3" width="2" height="10" fill="currentColor" opacity={dark} />
      ))}
    </svg>
  );
}

/** Begins a test strip of one of the settings of the step; pressed while one hangs, it is put away. */
export function StripMenu({ strip }: { strip: TestStrip }) {
  if (strip.cells.length > 0) {
    return (
      <IconButton
        aria-label="Put the test strip away"
        aria-pressed="true"
        style={{ background: 'var(--paper-high)', boxShadow: 'inset 0 -2px 0 var(--lamp)', width: 28 }}
        onPress={strip.putAway}
      >
        <Bands />
      </IconButton>
    );
  }
  return (
    <Menu
      label="A test strip of"
      trigger={
        <IconButton aria-label="Test strip" style={{ width: 28 }}>
          <Bands />
        </IconButton>
      }
      sections={[{ name: 'A test strip of', entries: strip.names().map(name => ({ id: name, text: name })) }]}
      onAction={strip.begin}
    />
  );
}
