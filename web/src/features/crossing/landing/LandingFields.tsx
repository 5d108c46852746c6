import type { ReactNode } from 'react';
import { Form } from 'react-bootstrap';
import type { FormatView, LandingOptions } from '../../../api/client';
import { ContentsFields } from './ContentsFields';
import { FormatFields } from './FormatFields';
import { PartFields } from './PartFields';

interface Props {
  formats: FormatView[];
  format: FormatView;
  /** Nothing while they are on their way. */
  options: LandingOptions | undefined;
  set: (change: Partial<LandingOptions>) => void;
  setOption: (name: string, value: unknown) => void;
  setFormat: (key: string) => void;
  /** Further formats, below the chosen one. */
  also: ReactNode;
}

/** What a landing asks: the format, what is the same for all of them, and what only it asks. */
export function LandingFields({
  formats,
  format,
  options,
  set,
  setOption,
  setFormat,
  also,
}: Props) {
  return (
    <Form className="form-grid" onSubmit={(e) => e.preventDefault()}>
      <fieldset className="two-columns">
        <legend>Format</legend>
        {formats.map((f) => (
          <Form.Check
            key={f.key}
            type="radio"
            id={`format-${f.key}`}
            name="format"
            label={f.label}
            checked={f.key === format.key}
            onChange={() => setFormat(f.key)}
          />
        ))}
        <div className="form-text">
          Unit and axes in {format.name}: {format.frames}.
        </div>
      </fieldset>
      {also}
      {options && (
        <OptionFields format={format} options={options} set={set} setOption={setOption} />
      )}
    </Form>
  );
}

interface OptionProps {
  format: FormatView;
  options: LandingOptions;
  set: (change: Partial<LandingOptions>) => void;
  setOption: (name: string, value: unknown) => void;
}

function OptionFields({ format, options, set, setOption }: OptionProps) {
  return (
    <>
      <fieldset>
        <legend>Name of the files</legend>
        <Form.Control
          size="sm"
          aria-label="Name of the files"
          placeholder="as the crossing"
          value={options.fileName ?? ''}
          onChange={(e) => set({ fileName: e.target.value })}
        />
        <div className="form-text">Files beside it are named and linked accordingly.</div>
      </fieldset>
      <PartFields
        parts={options.parts}
        onChange={(change) => set({ parts: { ...options.parts, ...change } })}
      />
      <ContentsFields
        contents={options.contents}
        onChange={(change) => set({ contents: { ...options.contents, ...change } })}
      />
      {format.holdsPlaces && <Transforms options={options} set={set} />}
      <fieldset>
        <legend>Surfaces</legend>
        <Form.Check
          type="checkbox"
          id="double"
          label="Show both sides"
          checked={options.doubleSided}
          onChange={(e) => set({ doubleSided: e.target.checked })}
        />
        <div className="form-text">Off: costs time to draw and hides flipped faces.</div>
      </fieldset>
      <FormatFields fields={format.fields} values={options.options} onChange={setOption} />
    </>
  );
}

/** Where the change of frame goes; formats without places of parts leave no choice. */
function Transforms({ options, set }: Pick<OptionProps, 'options' | 'set'>) {
  return (
    <fieldset>
      <legend>Unit, axes and place</legend>
      <Form.Check
        type="radio"
        id="data"
        name="transforms"
        label="Into the data: parts stay clean"
        checked={options.transforms === 'DATA'}
        onChange={() => set({ transforms: 'DATA' })}
      />
      <Form.Check
        type="radio"
        id="on-root"
        name="transforms"
        label="On one root part: numbers stay"
        checked={options.transforms === 'ROOT'}
        onChange={() => set({ transforms: 'ROOT' })}
      />
    </fieldset>
  );
}
