import { expect, test } from 'vitest';
import type { StepField } from '../../../api/client';
import { isAsked } from './fieldAsked';

const field = (name: string, standard: unknown, when: string) =>
  ({ name, standard, when }) as unknown as StepField;

test('a field counts by a flag, or by the values of a choice, given or standing', () => {
  const all = [field('to', 'box', ''), field('bake', false, ''), field('x', 0, 'to=point|vertex')];
  expect(isAsked(all[0] as StepField, all, {})).toBe(true);
  expect(isAsked(all[2] as StepField, all, {})).toBe(false);
  expect(isAsked(all[2] as StepField, all, { to: 'vertex' })).toBe(true);
  expect(isAsked(field('y', 0, 'to=box'), all, {})).toBe(true);
  expect(isAsked(field('rate', 0, 'bake'), all, {})).toBe(false);
  expect(isAsked(field('rate', 0, 'bake'), all, { bake: true })).toBe(true);
});
