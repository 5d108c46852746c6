import type { StepField } from '../../../api/client';
import { FieldBox } from '../fields/FieldBox';
import { isAsked } from '../fields/fieldAsked';

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
            id={`landing-${field.name}`}
            field={field}
            value={values[field.name] ?? field.standard}
            onChange={(value) => onChange(field.name, value)}
          />
        ))}
    </fieldset>
  ));
}
