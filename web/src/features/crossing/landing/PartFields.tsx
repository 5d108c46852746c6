import { Form } from 'react-bootstrap';
import type { LandingOptions } from '../../../api/client';

type Parts = LandingOptions['parts'];

interface Props {
  parts: Parts;
  onChange: (change: Partial<Parts>) => void;
}

/** One file of everything, or one for each part. */
export function PartFields({ parts, onChange }: Props) {
  return (
    <fieldset>
      <legend>One file or several</legend>
      <Form.Check
        type="radio"
        id="one-file"
        name="parts"
        label="Everything in one file"
        checked={!parts.each}
        onChange={() => onChange({ each: false })}
      />
      <Form.Check
        type="radio"
        id="each-part"
        name="parts"
        label="Each part in a file of its own"
        checked={parts.each}
        onChange={() => onChange({ each: true })}
      />
      {parts.each && (
        <>
          <Form.Control
            size="sm"
            aria-label="Names of the files"
            value={parts.pattern}
            onChange={(e) => onChange({ pattern: e.target.value })}
          />
          <div className="form-text">
            {'{asset}, {part} and {number} stand for what differs. A part shows a mesh, with what'}
            {' hangs on it.'}
          </div>
          <Form.Check
            type="checkbox"
            id="at-origin"
            label="Pivot on the origin"
            checked={parts.atOrigin}
            onChange={(e) => onChange({ atOrigin: e.target.checked })}
          />
        </>
      )}
    </fieldset>
  );
}
