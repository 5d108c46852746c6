import { useEffect, useState } from 'react';
import { Form, InputGroup } from 'react-bootstrap';
import type { StepField } from '../../../api/client';

interface Props {
  id: string;
  field: StepField;
  value: number;
  onChange: (value: number) => void;
}

/** A number with its unit; what does not fit is not saved and says why. */
export function NumberBox({ id, field, value, onChange }: Props) {
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
          title={field.help}
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
