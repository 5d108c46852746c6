import { Form } from 'react-bootstrap';
import type { Step, StepField, StepKind } from '../../../api/client';
import { isAsked } from '../fieldAsked';
import { NumberBox } from './NumberBox';
import { PartBox } from './PartBox';
import { PickBox } from './PickBox';
import { TextBox } from './TextBox';

interface Props {
  crossingId: string;
  kind: StepKind;
  step: Step;
  onChange: (params: Record<string, unknown>) => void;
}

/** A form made from the step's published fields; a value is saved when it is left. */
export function StepForm({ crossingId, kind, step, onChange }: Props) {
  const params = step.params as Record<string, unknown>;
  const asked = kind.fields.filter((field) => isAsked(field, kind.fields, params));
  return asked.map((field) => (
    <Form.Group
      key={field.name}
      className={field.type === 'flag' ? 'stone-flag' : 'stone-field'}
      controlId={`${step.id}-${field.name}`}
    >
      {field.type !== 'flag' && <Form.Label title={field.help}>{field.label}</Form.Label>}
      <FieldBox
        id={`${step.id}-${field.name}`}
        crossingId={crossingId}
        field={field}
        value={params[field.name] ?? field.standard}
        onChange={(value) => onChange({ ...params, [field.name]: value })}
      />
    </Form.Group>
  ));
}

interface BoxProps {
  id: string;
  crossingId: string;
  field: StepField;
  value: unknown;
  onChange: (value: unknown) => void;
}

function FieldBox({ id, crossingId, field, value, onChange }: BoxProps) {
  switch (field.type) {
    case 'choice':
      return (
        <Form.Select
          size="sm"
          title={field.help}
          value={String(value)}
          onChange={(e) => onChange(e.target.value)}
        >
          {field.options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </Form.Select>
      );
    case 'flag':
      return (
        <Form.Check
          type="checkbox"
          id={id}
          label={field.label}
          title={field.help}
          checked={Boolean(value)}
          onChange={(e) => onChange(e.target.checked)}
        />
      );
    case 'text':
      return <TextBox id={id} value={String(value ?? '')} help={field.help} onChange={onChange} />;
    case 'part':
      return (
        <PartBox id={id} crossingId={crossingId} value={Number(value ?? 0)} onChange={onChange} />
      );
    case 'vertex':
    case 'faces':
      return <PickBox type={field.type} value={String(value ?? '')} onChange={onChange} />;
    default:
      return <NumberBox id={id} field={field} value={Number(value)} onChange={onChange} />;
  }
}
