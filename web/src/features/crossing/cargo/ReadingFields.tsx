import { useQueryClient } from '@tanstack/react-query';
import { Form } from 'react-bootstrap';
import { type CargoView, sendJson } from '../../../api/client';
import { complain } from '../../../shared/Notices';
import { FieldBox } from '../fields/FieldBox';
import { isAsked } from '../fields/fieldAsked';

interface Props {
  id: string;
  cargo: CargoView;
  disabled: boolean;
}

/** What is chosen elsewhere: in the table of files, or offered by the files themselves. */
const OFFERED = ['variants', 'payloads', 'taken'];

/** What can be chosen about the reading of this cargo; each choice reads it anew. */
export function ReadingFields({ id, cargo, disabled }: Props) {
  const client = useQueryClient();
  const choose = (name: string, value: unknown) =>
    sendJson('PUT', `/api/crossings/${id}/reading`, { [name]: value })
      .catch(complain)
      .finally(() => client.invalidateQueries({ queryKey: ['crossing', id] }));
  const motion = cargo.files.some((f) => f.taken === 'motion');
  const shown = cargo.fields
    .filter((f) => !OFFERED.includes(f.name))
    .filter((f) => f.name !== 'motionFits' || motion)
    .filter((f) => isAsked(f, cargo.fields, cargo.options));
  if (shown.length === 0) {
    return null;
  }
  return (
    <Form className="reading-fields" onSubmit={(e) => e.preventDefault()}>
      <fieldset disabled={disabled}>
        <legend className="visually-hidden">How it is read</legend>
        {shown.map((field) => (
          <div key={field.name} className="reading-field">
            {field.options.length > 0 && (
              <label htmlFor={`reading-${field.name}`} title={field.help}>
                {field.label}
              </label>
            )}
            <FieldBox
              id={`reading-${field.name}`}
              field={field}
              value={cargo.options[field.name] ?? field.standard}
              onChange={(value) => choose(field.name, value)}
            />
          </div>
        ))}
      </fieldset>
    </Form>
  );
}
