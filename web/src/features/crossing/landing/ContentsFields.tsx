import { Form } from 'react-bootstrap';
import type { LandingOptions } from '../../../api/client';

type Contents = LandingOptions['contents'];
type What = Contents['without'][number];

const WHAT: { what: What; label: string }[] = [
  { what: 'SHAPES', label: 'Shapes' },
  { what: 'MATERIALS', label: 'Materials' },
  { what: 'CLIPS', label: 'Clips' },
  { what: 'CAMERAS', label: 'Cameras' },
  { what: 'LIGHTS', label: 'Lights' },
  { what: 'VALUES', label: 'Custom values' },
];

interface Props {
  contents: Contents;
  onChange: (change: Partial<Contents>) => void;
}

/** What of the far side lands. */
export function ContentsFields({ contents, onChange }: Props) {
  return (
    <fieldset>
      <legend>What lands</legend>
      {WHAT.map(({ what, label }) => (
        <Form.Check
          key={what}
          type="checkbox"
          id={`lands-${what.toLowerCase()}`}
          label={label}
          checked={!contents.without.includes(what)}
          onChange={(e) =>
            onChange({
              without: e.target.checked
                ? contents.without.filter((w) => w !== what)
                : [...contents.without, what],
            })
          }
        />
      ))}
      {contents.without.includes('SHAPES') && (
        <div className="form-text">Parts and their motion land, without anything to see.</div>
      )}
      <Form.Control
        size="sm"
        className="mt-1"
        aria-label="Only parts named"
        placeholder="all parts"
        value={contents.only}
        onChange={(e) => onChange({ only: e.target.value })}
      />
      <div className="form-text">
        Only parts of these names, like crate*, with what hangs on them. The far side stays whole.
      </div>
    </fieldset>
  );
}
