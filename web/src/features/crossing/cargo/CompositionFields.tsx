import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { Form } from 'react-bootstrap';
import { type CargoView, sendJson } from '../../../api/client';
import { Button } from '../../../shared/Button';
import { complain } from '../../../shared/Notices';
import { payloadText, variantsOf, variantText } from './variantText';

interface Props {
  id: string;
  cargo: CargoView;
  disabled: boolean;
}

/** Variants and parts that are loaded on demand, as the files offer them; each choice reads anew. */
export function CompositionFields({ id, cargo, disabled }: Props) {
  const client = useQueryClient();
  const { choices, payloads } = cargo.composition;
  // What was asked for counts until the cargo is read again.
  const [asked, setAsked] = useState<Record<string, boolean>>({});
  useEffect(() => setAsked({}), [cargo.composition]);
  if (choices.length + payloads.length === 0) {
    return null;
  }
  const choose = (name: string, value: string) =>
    sendJson('PUT', `/api/crossings/${id}/reading`, { [name]: value })
      .catch(complain)
      .finally(() => client.invalidateQueries({ queryKey: ['crossing', id] }));
  const own = variantsOf(String(cargo.options.variants ?? ''));
  const prims = [...new Set(payloads.map((p) => p.prim))];
  return (
    <Form className="reading-fields" onSubmit={(e) => e.preventDefault()}>
      <fieldset disabled={disabled}>
        <legend className="visually-hidden">Variants and payloads</legend>
        {choices.map((choice) => {
          const key = `${choice.prim}-${choice.set}`;
          const label = `${choice.prim.slice(1)} · ${choice.set}`;
          return (
            <div key={key} className="reading-field">
              <label htmlFor={`variant-${key}`} title="Variant that counts">
                {label}
              </label>
              <Form.Select
                id={`variant-${key}`}
                size="sm"
                value={choice.chosen}
                onChange={(e) =>
                  choose(
                    'variants',
                    variantText({
                      ...own,
                      [choice.prim]: { ...own[choice.prim], [choice.set]: e.target.value },
                    }),
                  )
                }
              >
                <option value="">None</option>
                {choice.names.map((name) => (
                  <option key={name} value={name}>
                    {name}
                  </option>
                ))}
              </Form.Select>
            </div>
          );
        })}
        {Object.keys(own).length > 0 && (
          <Button variant="link" className="py-0" onClick={() => choose('variants', '')}>
            As the files choose
          </Button>
        )}
        {prims.map((prim) => (
          <Form.Check
            key={prim}
            id={`payload-${prim}`}
            type="switch"
            label={`${prim.slice(1)}, loaded on demand`}
            title={payloads
              .filter((p) => p.prim === prim)
              .map((p) => p.layer)
              .join(', ')}
            checked={asked[prim] ?? payloads.some((p) => p.prim === prim && p.loaded)}
            onChange={(e) => {
              setAsked({ ...asked, [prim]: e.target.checked });
              choose('payloads', payloadText(payloads, prim, e.target.checked));
            }}
          />
        ))}
      </fieldset>
    </Form>
  );
}
