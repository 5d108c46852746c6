import { useEffect, useState } from 'react';
import { Form, InputGroup } from 'react-bootstrap';
import type { Step, StepField, StepKind } from '../../../api/client';

interface Props {
  kind: StepKind;
  step: Step;
  onChange: (params: Record<string, unknown>) => void;
}

/** A form made from the step's published fields; a value is saved when it is left. */
export function StepForm({ kind, step, onChange }: Props) {
  const params = step.params as Record<string, unknown>;
  return kind.fields.map((field) => (
    <Form.Group key={field.name} controlId={`${step.id}-${field.name}`}>
      <Form.Label title={field.help}>{field.label}</Form.Label>
      {field.type === 'choice' ? (
        <Form.Select
          value={String(params[field.name] ?? field.standard)}
          onChange={(e) => onChange({ ...params, [field.name]: e.target.value })}
        >
          {field.options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </Form.Select>
      ) : (
        <NumberBox
          id={`${step.id}-${field.name}`}
          field={field}
          value={Number(params[field.name] ?? field.standard)}
          onChange={(value) => onChange({ ...params, [field.name]: value })}
        />
      )}
    </Form.Group>
  ));
}

interface NumberProps {
  id: string;
  field: StepField;
  value: number;
  onChange: (value: number) => void;
}

function NumberBox({ id, field, value, onChange }: NumberProps) {
  const [text, setText] = useState(String(value));
  useEffect(() => setText(String(value)), [value]);
  const typed = Number(text.replace(',', '.'));
  const fits =
    text.trim() !== '' &&
    Number.isFinite(typed) &&
    typed >= (field.min ?? -Infinity) &&
    typed <= (field.max ?? Infinity);
  const save = () => {
    if (fits && typed !== value) {
      onChange(typed);
    }
  };
  return (
    <>
      <InputGroup size="sm" hasValidation>
        <Form.Control
          id={id}
          inputMode="decimal"
          value={text}
          isInvalid={!fits}
          onChange={(e) => setText(e.target.value)}
          onBlur={save}
          onKeyDown={(e) => e.key === 'Enter' && save()}
        />
        {field.unit && <InputGroup.Text>{field.unit}</InputGroup.Text>}
      </InputGroup>
      {!fits && (
        <p className="loss">
          {field.min ?? '−∞'} to {field.max ?? '∞'}
        </p>
      )}
    </>
  );
}
