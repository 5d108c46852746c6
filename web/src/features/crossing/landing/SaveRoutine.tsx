import { useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Form, Modal } from 'react-bootstrap';
import { useNavigate } from 'react-router-dom';
import { type LandingOptions, type Routine, sendJson } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { complain } from '../../../shared/Notices';

interface Props {
  id: string;
  options: LandingOptions;
}

/** Keeps the steps, the shore and this landing under a name, to be run on other cargo. */
export function SaveRoutine({ id, options }: Props) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState('');
  const [note, setNote] = useState('');
  const client = useQueryClient();
  const navigate = useNavigate();
  const save = () =>
    sendJson<Routine>('POST', '/api/routines', {
      crossingId: id,
      name,
      note,
      landings: [options],
    })
      .then(async (routine) => {
        await client.invalidateQueries({ queryKey: ['routines'] });
        navigate(`/routines/${routine.id}`);
      })
      .catch(complain);
  return (
    <>
      <Button variant="outline-secondary" onClick={() => setOpen(true)}>
        Save as a routine
      </Button>
      <Modal show={open} onHide={() => setOpen(false)} centered aria-labelledby="save-routine">
        <Form
          onSubmit={(e) => {
            e.preventDefault();
            void save();
          }}
        >
          <Modal.Body>
            <h2 id="save-routine" className="h5">
              Save as a routine
            </h2>
            <p className="quiet">
              The steps, the choices about the reading, the shore and this landing. Parts that were
              picked by hand are told by their names. A name that is there already gets one more
              version.
            </p>
            <Form.Group controlId="routine-name" className="mb-2">
              <Form.Label>Name</Form.Label>
              <Form.Control
                value={name}
                required
                maxLength={80}
                autoFocus
                onChange={(e) => setName(e.target.value)}
              />
            </Form.Group>
            <Form.Group controlId="routine-note">
              <Form.Label>For</Form.Label>
              <Form.Control
                as="textarea"
                rows={2}
                value={note}
                maxLength={2000}
                onChange={(e) => setNote(e.target.value)}
              />
            </Form.Group>
          </Modal.Body>
          <Modal.Footer>
            <Button variant="outline-secondary" onClick={() => setOpen(false)}>
              Cancel
            </Button>
            <Button type="submit" disabled={!name.trim()}>
              Save
            </Button>
          </Modal.Footer>
        </Form>
      </Modal>
    </>
  );
}
