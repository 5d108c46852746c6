import { Form } from 'react-bootstrap';
import type { FormatView } from '../../../api/client';

interface Props {
  formats: FormatView[];
  /** The format that is chosen. */
  chosen: string;
  also: string[];
  onChange: (also: string[]) => void;
}

/** Further formats that land at once, as the shore asks for each. */
export function AlsoAs({ formats, chosen, also, onChange }: Props) {
  return (
    <fieldset>
      <legend>And at once as</legend>
      <Form.Select
        multiple
        size="sm"
        htmlSize={4}
        aria-label="Further formats"
        value={also}
        onChange={(e) => onChange([...e.target.selectedOptions].map((o) => o.value))}
      >
        {formats
          .filter((f) => f.key !== chosen)
          .map((f) => (
            <option key={f.key} value={f.key}>
              {f.name}
            </option>
          ))}
      </Form.Select>
      <div className="form-text">
        Ctrl and a click take several. Each lands as the shore asks, with names and parts as here.
      </div>
    </fieldset>
  );
}
