import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import type { BenchColumn, BenchRow, BenchSlot } from '../../api/client';
import { Button } from '../../shared/Button';
import { bytes } from '../../shared/format';
import { RowLoss } from './RowLoss';
import { SlotLoss } from './SlotLoss';
import { Thumb } from './Thumb';

interface Props {
  id: string;
  revision: number;
  row: BenchRow;
  column: BenchColumn;
  /** Paths of all images of the cargo. */
  images: string[];
  onPut: (image: string | null) => void;
  onClose: () => void;
}

const PARTS = [
  { value: '', label: 'the whole image' },
  { value: 'r', label: 'its red' },
  { value: 'g', label: 'its green' },
  { value: 'b', label: 'its blue' },
  { value: 'a', label: 'its alpha' },
];

const STATES: Record<string, string> = {
  file: 'a file of the cargo',
  inside: 'inside the scene’s file',
  made: 'made by a step',
  missing: 'not found',
  none: 'a number alone',
};

/** What one channel of one material has on both sides, and what to put there. */
export function SlotEditor({ id, revision, row, column, images, onPut, onClose }: Props) {
  const cell = row.cells.find((c) => c.channel === column.channel);
  const near = cell?.near ?? null;
  const far = cell?.far ?? null;
  const [image, setImage] = useState('');
  const [part, setPart] = useState('');
  const [opposite, setOpposite] = useState(false);
  const now = far?.path ?? '';
  // An opposite has a name of its own; what another step made smaller keeps its file's.
  const made = far?.state === 'made' && !now.endsWith(far.image);
  useEffect(() => {
    setImage(now);
    setPart(far?.part ?? '');
    setOpposite(made);
  }, [now, far?.part, made]);
  const said = [part, opposite ? 'opposite' : ''].filter((t) => t !== '').join(', ');
  return (
    <section className="slot-editor" aria-label={`${column.label} of ${row.name}`}>
      <header>
        <h2>
          {row.name} · {column.label}
        </h2>
        <span className="pill pill-plain">{column.space}</span>
        <Button variant="outline-secondary" onClick={onClose} title="Close (Esc)">
          Close
        </Button>
      </header>
      <div className="slot-sides">
        <SlotFacts id={id} title="Near side" slot={near} />
        <SlotFacts id={id} title="Far side" slot={far} />
        <RowLoss id={id} revision={revision} row={row} />
        {near && far && <SlotLoss id={id} near={near} far={far} />}
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (image) {
              onPut(said ? `${image} [${said}]` : image);
            }
          }}
        >
          <Form.Group controlId="slot-image">
            <Form.Label>Image</Form.Label>
            <Form.Select size="sm" value={image} onChange={(e) => setImage(e.target.value)}>
              <option value="">choose an image of the cargo</option>
              {images.map((i) => (
                <option key={i}>{i}</option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="slot-part">
            <Form.Label>What is read</Form.Label>
            <Form.Select size="sm" value={part} onChange={(e) => setPart(e.target.value)}>
              {PARTS.map((p) => (
                <option key={p.value} value={p.value}>
                  {p.label}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Check
            id="slot-opposite"
            label={
              column.channel === 'NORMAL'
                ? 'Turn its green: it points down'
                : 'The opposite: gloss for roughness'
            }
            checked={opposite}
            onChange={(e) => setOpposite(e.target.checked)}
          />
          <div className="slot-actions">
            <Button type="submit" disabled={!image}>
              Put it on
            </Button>
            <Button variant="outline-secondary" disabled={!far} onClick={() => onPut('-')}>
              Take away
            </Button>
            <Button
              variant="outline-secondary"
              title="Forget what was said by hand of this channel"
              onClick={() => onPut(null)}
            >
              As found
            </Button>
          </div>
        </form>
      </div>
    </section>
  );
}

function SlotFacts({ id, title, slot }: { id: string; title: string; slot: BenchSlot | null }) {
  return (
    <div className="slot-facts">
      <Thumb id={id} slot={slot} size={104} />
      <div>
        <h3 className="caps">{title}</h3>
        {slot ? (
          <>
            <p className="slot-name">{slot.image || 'no image'}</p>
            <p>
              {STATES[slot.state]}
              {slot.part && `, ${PARTS.find((p) => p.value === slot.part)?.label}`}
            </p>
            {slot.width > 0 && (
              <p>
                {slot.looks}, {bytes(slot.bytes)}
              </p>
            )}
            {slot.factor && <p>factor {slot.factor}</p>}
            {slot.care && <p className="loss">{slot.care}</p>}
          </>
        ) : (
          <p className="quiet">says nothing of this channel</p>
        )}
      </div>
    </div>
  );
}
