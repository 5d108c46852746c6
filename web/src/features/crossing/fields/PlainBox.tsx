import { Form } from 'react-bootstrap';
import type { StepField } from '../../../api/client';
import { NumberBox } from './NumberBox';
import { TextBox } from './TextBox';

export interface BoxProps {
  id: string;
  field: StepField;
  value: unknown;
  onChange: (value: unknown) => void;
}

/** The control of a field whose value is typed, ticked or chosen: its label is not part of it. */
export function PlainBox({ id, field, value, onChange }: BoxProps) {
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
        id={id}
        size="sm"
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
  return field.type === 'number' ? (
    <NumberBox id={id} field={field} value={Number(value)} onChange={onChange} />
  ) : (
    <TextBox id={id} value={String(value ?? '')} help={field.help} onChange={onChange} />
  );
}
