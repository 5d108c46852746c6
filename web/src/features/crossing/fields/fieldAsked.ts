import type { StepField } from '../../../api/client';

/** Whether a field counts: always, while a flag is on, or while a choice stands at some values. */
export function isAsked(
  field: StepField,
  all: StepField[],
  values: Record<string, unknown>,
): boolean {
  if (field.when === '') {
    return true;
  }
  const [name = '', wanted] = field.when.split('=');
  const value = values[name] ?? all.find((f) => f.name === name)?.standard;
  return wanted === undefined ? value === true : wanted.split('|').includes(String(value));
}
