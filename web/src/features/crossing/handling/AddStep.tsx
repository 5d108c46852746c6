import { Fragment, useRef, useState } from 'react';
import { Dropdown, Form } from 'react-bootstrap';
import type { StepKind } from '../../../api/client';

interface Props {
  kinds: StepKind[];
  ready: boolean;
  onAdd: (kind: StepKind) => void;
  onDrop: () => void;
}

/** All kinds of steps by what they are for, with a search. */
export function AddStep({ kinds, ready, onAdd, onDrop }: Props) {
  const [wanted, setWanted] = useState('');
  const [open, setOpen] = useState(false);
  const search = useRef<HTMLInputElement>(null);
  const text = wanted.trim().toLowerCase();
  const fits = kinds.filter((k) => `${k.label} ${k.help}`.toLowerCase().includes(text));
  const best = text === '' ? undefined : bestFit(fits, text);
  const groups = [...new Set(fits.map((k) => k.group))];
  return (
    <Dropdown
      onDragOver={(e: React.DragEvent) => e.preventDefault()}
      onDrop={onDrop}
      show={open}
      onToggle={(now: boolean) => {
        setWanted('');
        setOpen(now);
        if (now) {
          window.setTimeout(() => search.current?.focus(), 0);
        }
      }}
    >
      <Dropdown.Toggle bsPrefix="add-stone" id="add-step" disabled={!ready}>
        Add a step <kbd>A</kbd>
      </Dropdown.Toggle>
      <Dropdown.Menu className="step-menu" popperConfig={{ strategy: 'fixed' }} renderOnMount>
        <Form.Control
          ref={search}
          size="sm"
          className="step-search"
          placeholder="Find a step"
          aria-label="Find a step"
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Enter' && best) {
              e.preventDefault();
              onAdd(best);
              setOpen(false);
            }
          }}
        />
        {groups.map((group) => (
          <Fragment key={group}>
            <Dropdown.Header aria-level={3}>{group}</Dropdown.Header>
            {fits
              .filter((k) => k.group === group)
              .map((k) => (
                <Dropdown.Item
                  key={k.kind}
                  as="button"
                  className={k === best ? 'best' : ''}
                  onClick={() => onAdd(k)}
                  title={k.help}
                >
                  {k.label}
                  {k === best && <kbd>Enter</kbd>}
                </Dropdown.Item>
              ))}
          </Fragment>
        ))}
        {fits.length === 0 && <p className="empty-note">No step does that yet.</p>}
      </Dropdown.Menu>
    </Dropdown>
  );
}

/** The step that Enter takes: its label before its help, the whole word before a part. */
function bestFit(fits: StepKind[], text: string): StepKind | undefined {
  const label = (k: StepKind) => k.label.toLowerCase();
  return (
    fits.find((k) => label(k) === text) ??
    fits.find((k) => label(k).startsWith(text)) ??
    fits.find((k) => label(k).includes(text)) ??
    fits[0]
  );
}
