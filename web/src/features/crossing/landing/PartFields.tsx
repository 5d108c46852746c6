import { Form } from 'react-bootstrap';
import type { LandingOptions } from '../../../api/client';

type Parts = LandingOptions['parts'];

interface Props {
  parts: Parts;
  onChange: (change: Partial<Parts>) => void;
}

/** One file of everything, or one for each part or clip. */
export function PartFields({ parts, onChange }: Props) {
  return (
    <fieldset>
      <legend>One file or several</legend>
      <Form.Check
        type="radio"
        id="one-file"
        name="parts"
        label="Everything in one file"
        checked={!parts.each && !parts.clips}
        onChange={() => onChange({ each: false, clips: false })}
      />
      <Form.Check
        type="radio"
        id="each-part"
        name="parts"
        label="Each part in a file of its own"
        checked={parts.each}
        onChange={() => onChange({ each: true, clips: false, pattern: '{asset}_{part}' })}
      />
      <Form.Check
        type="radio"
        id="each-clip"
        name="parts"
        label="Each clip in a file of its own"
        checked={parts.clips}
        onChange={() => onChange({ each: false, clips: true, pattern: '{asset}_{clip}' })}
      />
      {(parts.each || parts.clips) && (
        <Form.Control
          size="sm"
          aria-label="Names of the files"
          value={parts.pattern}
          onChange={(e) => onChange({ pattern: e.target.value })}
        />
      )}
      {parts.clips && (
        <>
          <div className="form-text">
            {
              '{asset}, {clip} and {number} stand for what differs. Each file has everything else too;'
            }
            {' what lands is chosen beside.'}
          </div>
          <Form.Select
            size="sm"
            className="mt-1"
            aria-label="Rest pose"
            value={parts.rest}
            onChange={(e) => onChange({ rest: e.target.value as Parts['rest'] })}
          >
            <option value="NONE">Without the rest pose</option>
            <option value="FILE">The rest pose in a file before them</option>
            <option value="FRAME">The rest pose in the first frame of each</option>
          </Form.Select>
        </>
      )}
      {parts.each && (
        <>
          <div className="form-text">
            {'{asset}, {part} and {number} stand for what differs. A part shows a mesh, with what'}
            {' hangs on it.'}
          </div>
          <Form.Select
            size="sm"
            className="mt-1"
            aria-label="On the origin"
            value={parts.origin}
            onChange={(e) => onChange({ origin: e.target.value as Parts['origin'] })}
          >
            <option value="PIVOT">Pivot on the origin</option>
            <option value="BASE">Middle of the base on the origin</option>
            <option value="PLACE">Each stays in its place</option>
          </Form.Select>
        </>
      )}
    </fieldset>
  );
}
