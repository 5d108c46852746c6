/** What may be taken of one of several scene files, as the reading field has it. */
export const TAKEN = [
  { value: 'all', label: 'all of it' },
  { value: 'shapes', label: 'shapes: no clips, cameras, lights' },
  { value: 'high', label: 'fine levels of parts' },
  { value: 'low', label: 'coarse levels of parts' },
  { value: 'materials', label: 'materials, by name' },
  { value: 'looks', label: 'materials, others beside' },
  { value: 'motion', label: 'motion, put on parts of the same name' },
  { value: 'cameras', label: 'cameras' },
  { value: 'lights', label: 'lights' },
  { value: 'nothing', label: 'nothing' },
];

/** Semicolons part the entries: any one character stands for them. */
const pattern = (path: string) => path.replaceAll(';', '?');

function rules(text: string): { file: string; use: string }[] {
  return text
    .split(';')
    .filter((part) => part.includes('='))
    .map((part) => {
      const at = part.lastIndexOf('=');
      return { file: part.slice(0, at).trim(), use: part.slice(at + 1).trim() };
    });
}

function fits(file: string, path: string): boolean {
  const regex = file
    .split('')
    .map((c) => (c === '*' ? '.*' : c === '?' ? '.' : c.replace(/[^\w\s]/g, '\\$&')))
    .join('');
  const whole = new RegExp(`^${regex}$`, 'is');
  return whole.test(path) || whole.test(path.slice(path.lastIndexOf('/') + 1));
}

/**
 * The text with something else said of a file, before all other rules: of those the first that fits
 * counts, and of a file that none names all is taken.
 */
export function withTaken(text: string, path: string, use: string): string {
  const others = rules(text).filter((r) => r.file !== pattern(path));
  const left = others.map((r) => `${r.file}=${r.use}`).join(';');
  if (others.find((r) => fits(r.file, path))?.use === use) {
    return left;
  }
  return [`${pattern(path)}=${use}`, left].filter(Boolean).join(';');
}
