import { Form } from 'react-bootstrap';
import type { Step, StepKind } from '../../../api/client';
import { isAsked } from '../fields/fieldAsked';
import { type BoxProps, PlainBox } from '../fields/PlainBox';
import { PartBox } from './PartBox';
import { PickBox } from './PickBox';

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
  return asked.map((field) => {
    const id = `${step.id}-${field.name}`;
    return (
      <div key={field.name} className={field.type === 'flag' ? 'stone-flag' : 'stone-field'}>
        {field.type !== 'flag' && (
          <Form.Label htmlFor={id} title={field.help}>
            {field.label}
          </Form.Label>
        )}
        <StepBox
          id={id}
          crossingId={crossingId}
          field={field}
          value={params[field.name] ?? field.standard}
          onChange={(value) => onChange({ ...params, [field.name]: value })}
        />
      </div>
    );
  });
}

/** The control of a field; what is picked in the views has one of its own. */
function StepBox(props: BoxProps & { crossingId: string }) {
  const { id, crossingId, field, value, onChange } = props;
  switch (field.type) {
    case 'part':
      return (
        <PartBox id={id} crossingId={crossingId} value={Number(value ?? 0)} onChange={onChange} />
      );
    case 'vertex':
    case 'faces':
      return <PickBox type={field.type} value={String(value ?? '')} onChange={onChange} />;
    default:
      return <PlainBox {...props} />;
  }
}
