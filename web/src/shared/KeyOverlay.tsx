import { Modal } from 'react-bootstrap';
import { create } from 'zustand';
import { useKeys } from './useKeys';

const KEYS: [string, [string, string][]][] = [
  [
    'Everywhere',
    [
      ['?', 'these keys'],
      ['D', 'day or night'],
      ['Esc', 'close, or drop the selection'],
    ],
  ],
  [
    'Quay',
    [
      ['N', 'new crossing'],
      ['/', 'find a crossing'],
    ],
  ],
  [
    'Views',
    [
      ['F', 'find the selection, or everything'],
      ['1 2 3', 'near side, both, far side'],
      ['4', 'one over the other, with a seam'],
      ['X', 'next shading'],
      ['K', 'clicks pick parts, faces, vertices or a place for pivots'],
      ['J', 'skeleton'],
      ['O', 'even light, surroundings, the scene’s own lights'],
      ['P', 'play or stop the clip'],
      ['B N', 'one frame back, one on'],
      ['V', 'curves, tracks, how far apart, none'],
      ['drag', 'turn; with Shift or the right button, move'],
      ['wheel', 'nearer, farther'],
      ['arrows', 'turn, when a view has the focus'],
    ],
  ],
  [
    'Crossing',
    [
      ['[ ]', 'stop before, stop after'],
      ['/', 'find a part'],
      ['H', 'hide or show the selected parts'],
      ['I', 'only the selected parts, or all again'],
      ['A', 'add a step'],
      ['Alt ↑ ↓', 'move the step that has the focus'],
      ['Ctrl Z', 'undo'],
      ['Ctrl Shift Z', 'redo'],
      ['L', 'land'],
      ['M', 'material bench'],
    ],
  ],
  [
    'Material bench',
    [
      ['/', 'find a material or an image'],
      ['arrows', 'from cell to cell'],
      ['Enter', 'open the cell'],
      ['Delete', 'take away what the cell has'],
    ],
  ],
];

/** Whether the list of keys is open. */
export const useKeyOverlay = create<{ open: boolean; toggle: () => void }>((set) => ({
  open: false,
  toggle: () => set((s) => ({ open: !s.open })),
}));

/** All keys, on `?`. */
export function KeyOverlay() {
  const { open, toggle } = useKeyOverlay();
  useKeys({ '?': toggle });
  return (
    <Modal show={open} onHide={toggle} size="lg" aria-labelledby="keys-title">
      <Modal.Header closeButton>
        <Modal.Title id="keys-title">Keys</Modal.Title>
      </Modal.Header>
      <Modal.Body className="keys">
        {KEYS.map(([area, keys]) => (
          <section key={area}>
            <h3 className="caps">{area}</h3>
            <dl>
              {keys.map(([key, what]) => (
                <div key={key}>
                  <dt>
                    {key.split(' ').map((k) => (
                      <kbd key={k}>{k}</kbd>
                    ))}
                  </dt>
                  <dd>{what}</dd>
                </div>
              ))}
            </dl>
          </section>
        ))}
      </Modal.Body>
    </Modal>
  );
}
