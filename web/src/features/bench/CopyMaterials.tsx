import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { type MaterialCopies, sendJson } from '../../api/client';
import { queries } from '../../api/queries';
import { Button } from '../../shared/Button';
import { complain } from '../../shared/Notices';

interface Props {
  id: string;
}

/** Copies materials of another crossing's far side into this one. */
export function CopyMaterials({ id }: Props) {
  const [open, setOpen] = useState(false);
  const [from, setFrom] = useState('');
  const [left, setLeft] = useState<Set<string>>(new Set());
  const [said, setSaid] = useState<MaterialCopies | null>(null);
  const client = useQueryClient();
  const crossings = useQuery({ ...queries.crossings(), enabled: open });
  const others = (crossings.data ?? []).filter((c) => c.id !== id && c.state === 'ready');
  const bench = useQuery({ ...queries.bench(from, 0), enabled: open && from !== '' });
  const names = from === '' ? [] : (bench.data?.materials ?? []).map((m) => m.name);
  const chosen = names.filter((name) => !left.has(name));
  const choose = (other: string) => {
    setFrom(other);
    setLeft(new Set());
    setSaid(null);
  };
  const toggle = (name: string) => {
    const now = new Set(left);
    if (!now.delete(name)) {
      now.add(name);
    }
    setLeft(now);
  };
  const copy = () =>
    sendJson<MaterialCopies>('POST', `/api/crossings/${id}/bench/copies`, {
      crossing: from,
      materials: chosen,
    })
      .then(async (copied) => {
        setSaid(copied);
        await client.invalidateQueries({ queryKey: ['crossing', id] });
      })
      .catch(complain);
  return (
    <>
      <Button
        variant="outline-secondary"
        title="Take materials of another crossing over"
        onClick={() => {
          choose('');
          setOpen(true);
        }}
      >
        Copy materials …
      </Button>
      <Modal show={open} onHide={() => setOpen(false)} centered aria-labelledby="copy-materials">
        <Form
          onSubmit={(e) => {
            e.preventDefault();
            void copy();
          }}
        >
          <Modal.Body>
            <h2 id="copy-materials" className="h5">
              Copy materials of another crossing
            </h2>
            <p className="quiet">
              They come from its far side, with their images, as a file of this cargo. Where a
              material here has the same name, it looks like the copy. The others stand beside, and
              the step “Give a material” puts them on parts.
            </p>
            <Form.Group controlId="copy-from" className="mb-2">
              <Form.Label>From</Form.Label>
              <Form.Select autoFocus value={from} onChange={(e) => choose(e.target.value)}>
                <option value="">Choose a crossing</option>
                {others.map((c) => (
                  <option key={c.id} value={c.id}>
                    {c.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            {bench.error && <p className="loss">{bench.error.message}</p>}
            {from !== '' && bench.data && names.length === 0 && (
              <p className="quiet">It has no materials.</p>
            )}
            {names.length > 0 && (
              <fieldset className="copy-list">
                <legend className="caps">Materials</legend>
                {names.map((name) => (
                  <Form.Check
                    key={name}
                    id={`copy-${name}`}
                    label={name}
                    checked={!left.has(name)}
                    onChange={() => toggle(name)}
                  />
                ))}
              </fieldset>
            )}
            {said && (
              <div role="status">
                <p>
                  Copied as “{said.file}”: {said.materials.join(', ')}. The cargo is being read
                  anew.
                </p>
                {said.said.map((f) => (
                  <p key={`${f.code} ${f.where} ${f.message}`} className="quiet">
                    {f.where ? `${f.where}: ` : ''}
                    {f.message}
                  </p>
                ))}
              </div>
            )}
          </Modal.Body>
          <Modal.Footer>
            <Button variant="outline-secondary" onClick={() => setOpen(false)}>
              {said ? 'Close' : 'Cancel'}
            </Button>
            <Button type="submit" disabled={chosen.length === 0 || said !== null}>
              Copy {chosen.length === 0 ? '' : chosen.length}
            </Button>
          </Modal.Footer>
        </Form>
      </Modal>
    </>
  );
}
