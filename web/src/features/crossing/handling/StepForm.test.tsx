// @vitest-environment jsdom
import { fireEvent, screen } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import type { Step, StepField, StepKind } from '../../../api/client';
import { shown } from '../../../testing/page';
import { StepForm } from './StepForm';

const field = (change: Partial<StepField>) =>
  ({
    options: [],
    unit: '',
    min: null,
    max: null,
    help: '',
    group: '',
    when: '',
    ...change,
  }) as StepField;

const kind = {
  kind: 'pivot',
  fields: [
    field({
      name: 'to',
      label: 'To',
      type: 'choice',
      standard: 'box',
      options: [
        { value: 'box', label: 'a point of its box' },
        { value: 'point', label: 'a point by its numbers' },
      ],
    }),
    field({
      name: 'x',
      label: 'X',
      type: 'number',
      unit: 'm',
      standard: 0,
      min: -10,
      max: 10,
      when: 'to=point',
    }),
    field({ name: 'keep', label: 'Keep', type: 'flag', standard: false }),
    field({ name: 'named', label: 'Named', type: 'text', standard: '' }),
  ],
} as unknown as StepKind;

const step = (params: Record<string, unknown>) =>
  ({ id: 's', kind: 'pivot', params }) as unknown as Step;

function form(params: Record<string, unknown>) {
  const onChange = vi.fn();
  shown(<StepForm crossingId="c" kind={kind} step={step(params)} onChange={onChange} />);
  return onChange;
}

test('asks only what the choices ask for', () => {
  form({});
  expect(screen.queryByLabelText('X')).toBeNull();
  form({ to: 'point' });
  expect(screen.getByLabelText('X')).toBeTruthy();
});

test('a choice and a flag are saved at once, a text when it is left', () => {
  const onChange = form({ to: 'box', named: 'sail' });
  fireEvent.change(screen.getByLabelText('To'), { target: { value: 'point' } });
  expect(onChange).toHaveBeenLastCalledWith({ to: 'point', named: 'sail' });
  fireEvent.click(screen.getByLabelText('Keep'));
  expect(onChange).toHaveBeenLastCalledWith({ to: 'box', named: 'sail', keep: true });
  onChange.mockClear();
  const text = screen.getByLabelText('Named');
  fireEvent.change(text, { target: { value: 'mast' } });
  expect(onChange).not.toHaveBeenCalled();
  fireEvent.blur(text);
  expect(onChange).toHaveBeenLastCalledWith({ to: 'box', named: 'mast' });
});
