import { expect, test } from 'vitest';
import { put, treated } from '../testing/desk';
import { MonoBoard } from './MonoBoard';

const treatment = treated([{ id: 'm', kind: 'mono' }]);

test.each([
  ['upright', 1600, 2400],
  ['square', 2000, 2000],
  ['wide', 2400, 1600],
  ['a tall strip', 900, 2700],
])(
  'all conversions of a picture that is %s are in sight, at the size of a small window',
  async (_, width, height) => {
    const { container } = await put(
      <div style={{ position: 'relative', width: 904, height: 624 }}>
        <MonoBoard
          picture={{ id: 'p', width, height, grey: false, damage: null }}
          treatment={treatment}
          step={treatment.steps[0]}
          onChoose={() => undefined}
          onClose={() => undefined}
        />
      </div>,
    );
    const wall = container.querySelector('section')!.getBoundingClientRect();
    const prints = [...container.querySelectorAll('button, canvas')].map(each =>
      each.getBoundingClientRect(),
    );
    expect(container.querySelectorAll('.small')).toHaveLength(7);
    for (const { left, right, top, bottom } of prints) {
      expect(left).toBeGreaterThanOrEqual(wall.left);
      expect(right).toBeLessThanOrEqual(wall.right);
      expect(top).toBeGreaterThanOrEqual(wall.top);
      expect(bottom).toBeLessThanOrEqual(wall.bottom);
    }
  },
);
