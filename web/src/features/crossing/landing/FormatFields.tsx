import { Form } from 'react-bootstrap';
import type { StepField } from '../../../api/client';
import { isAsked } from '../fieldAsked';
import { NumberBox } from '../handling/NumberBox';
import { TextBox } from '../handling/TextBox';

interface Props {
  fields: StepField[];
  values: Record<string, unknown>;
  onChange: (name: string, value: unknown) => void;
}

/** What a format asks of a landing, drawn from its fields: a fieldset for each heading. */
export function FormatFields({ fields, values, onChange }: Props) {
  const groups = [...new Set(fields.map((f) => f.group))];
  const shown = (field: StepField) => isAsked(field, fields, values);
  return groups.map((group) => (
    <fieldset key={group}>
      <legend>{group}</legend>
      {fields
        .filter((f) => f.group === group && shown(f))
        .map((field) => (
          <FieldBox
            key={field.name}
            field={field}
            value={values[field.name] ?? field.standard}
            onChange={(value) => onChange(field.name, value)}
          />
        ))}
    </fieldset>
  ));
}

interface BoxProps {
  field: StepField;
  value: unknown;
  onChange: (value: unknown) => void;
}

function FieldBox({ field, value, onChange }: BoxProps) {
  const id = `landing-${field.name}`;
  if (field.type === 'flag') {
    return (
      <Form.Check
        type="checkbox"
        id={id}
        label={field.label}
        title={field.help}
        checked={value === true}
        onChange={(e) => onChange(e.target.checked)}
      />
    );
  }
  if (field.options.length > 0) {
    const known = field.options.some((o) => o.value === String(value));
    return (
      <Form.Select
        size="sm"
        className="mb-1"
        aria-label={field.label}
        title={field.help}
        value={String(value)}
        onChange={(e) =>
          onChange(field.type === 'number' ? Number(e.target.value) : e.target.value)
        }
      >
        {!known && (
          <option value={String(value)}>{`${field.label}: ${value} ${field.unit}`}</option>
        )}
        {field.options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </Form.Select>
    );
  }
  return (
    <Form.Group controlId={id}>
      <Form.Label title={field.help}>{field.label}</Form.Label>
      {field.type === 'number' ? (
        <NumberBox id={id} field={field} value={Number(value)} onChange={onChange} />
      ) : (
        <TextBox id={id} value={String(value)} help={field.help} onChange={onChange} />
      )}
    </Form.Group>
  );
}
