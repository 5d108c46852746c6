import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';

interface Props {
  id: string;
  value: string;
  help: string;
  placeholder?: string;
  onChange: (value: string) => void;
}

/** A text that is saved when it is left. */
export function TextBox({ id, value, help, placeholder, onChange }: Props) {
  const [text, setText] = useState(value);
  useEffect(() => setText(value), [value]);
  const save = () => {
    if (text !== value) {
      onChange(text);
    }
  };
  return (
    <Form.Control
      id={id}
      size="sm"
      title={help}
      value={text}
      placeholder={placeholder}
      spellCheck={false}
      autoComplete="off"
      onChange={(e) => setText(e.target.value)}
      onBlur={save}
      onKeyDown={(e) => e.key === 'Enter' && save()}
    />
  );
}
