import { Form } from 'react-bootstrap';
import { type BoxProps, PlainBox } from './PlainBox';

/** One choice drawn from its field: a box to tick, a list, a number or a text. */
export function FieldBox(props: BoxProps) {
  const { id, field } = props;
  // A list says by its entries what is chosen; numbers and texts need their label beside them.
  const labelled = field.type !== 'flag' && field.options.length === 0;
  return (
    <div className={field.options.length > 0 ? 'mb-1' : undefined}>
      {labelled && (
        <Form.Label htmlFor={id} title={field.help}>
          {field.label}
        </Form.Label>
      )}
      <PlainBox {...props} />
    </div>
  );
}
